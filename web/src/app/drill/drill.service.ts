import { Injectable, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { Answer, DealRequest, Exercise } from '@jentrix/core/drill';
import { type DrillResult, type Progress, resultSchema, scoreOf } from '@jentrix/core/drill/kept';
import { BehaviorSubject, firstValueFrom } from 'rxjs';
import { createBlock } from '@jentrix/core/job';
import * as z from 'zod';
import { ApiError } from '../api/api.service';
import { DrillApi } from './drill-api';
import { EngineService } from '../engine/engine.service';

/** The request for an exercise; the rest follows. */
export type WantedExercise = Pick<DealRequest, 'kind' | 'level' | 'own' | 'pair'>;

/** Where results wait that the server has not got yet. */
const WAITING = 'jentrix.drill.waiting';
const MOST_WAITING = 500;
/** Faces that are opened for an exercise: some variety, without loading all. */
const FACES = 3;
/** Where the words are set: nobody sees it. */
const FRAME = { xPt: 0, yPt: 0, widthPt: 1000, heightPt: 1000 };

/** Deals exercises, keeps what is done in them, and knows what they say of an eye. */
@Injectable({ providedIn: 'root' })
export class DrillRounds {
  private readonly api = inject(DrillApi);
  private readonly engine = inject(EngineService);
  private readonly known = new BehaviorSubject<Progress | undefined>(undefined);
  private sending = false;

  /** Undefined until the server has told it. */
  readonly progress$ = this.known.asObservable();
  readonly progress = toSignal(this.progress$);
  /** How many results wait for the server. */
  readonly waiting$ = new BehaviorSubject(this.waiting().length);
  readonly unsent = toSignal(this.waiting$, { requireSync: true });

  /** @throws Error in words, where there is nothing to practise on. */
  async deal({ kind, level, own, pair }: WantedExercise): Promise<Exercise> {
    await this.engine.engine();
    const seed = crypto.getRandomValues(new Uint32Array(1))[0] ?? 1;
    const hardness = this.known.value?.exercises.find((one) => one.kind === kind)?.hardness ?? 0;
    const shipped = this.engine.faces.filter(({ source }) => source === 'shipped').map(({ id, italic }) => ({ id, italic }));
    const faces = [false, true].flatMap((italic) =>
      some(
        shipped.filter((face) => face.italic === italic),
        seed,
        pair === undefined ? FACES : shipped.length,
      ),
    );
    return this.engine.deal(createBlock('drill', '', FRAME), {
      kind,
      level,
      own,
      pair,
      seed: seed % 2 ** 31,
      hardness,
      faces: faces.length > 0 ? faces : [...this.engine.faces],
    });
  }

  /** Keeps what was done; where the server is away it waits in the browser. @returns what it is worth. */
  async keep(exercise: Exercise, answer: Answer, seconds: number | null): Promise<number> {
    const { level, line } = exercise;
    const result: DrillResult = { level, faceId: line.faceId, words: line.words, at: new Date().toISOString(), seconds, answer };
    this.wait([...this.waiting(), result].slice(-MOST_WAITING));
    await this.send();
    return scoreOf(answer);
  }

  /** Sends what waits, and asks for what it comes to. @throws ApiError where the server answers that it won't */
  async refresh(): Promise<void> {
    await this.send();
    this.known.next(await firstValueFrom(this.api.readProgress()));
  }

  async forget(): Promise<void> {
    await firstValueFrom(this.api.forgetResults());
    this.wait([]);
    await this.refresh();
  }

  private async send(): Promise<void> {
    if (this.sending) return;
    this.sending = true;
    try {
      for (let [next] = this.waiting(); next; [next] = this.waiting()) {
        try {
          await firstValueFrom(this.api.keepResult(next));
        } catch (error) {
          // What the server won't take would be refused for ever.
          if (!(error instanceof ApiError) || error.kind !== 'refused') throw error;
        }
        this.wait(this.waiting().slice(1));
      }
    } catch (error) {
      if (!(error instanceof ApiError) || (error.kind !== 'offline' && error.kind !== 'failed')) throw error;
    } finally {
      this.sending = false;
    }
  }

  private waiting(): DrillResult[] {
    try {
      return z.array(resultSchema).parse(JSON.parse(localStorage.getItem(WAITING) ?? '[]'));
    } catch {
      return [];
    }
  }

  private wait(results: readonly DrillResult[]): void {
    localStorage.setItem(WAITING, JSON.stringify(results));
    this.waiting$.next(results.length);
  }
}

/** Some of several, others for another seed. */
const some = <T>(several: readonly T[], seed: number, count: number): T[] =>
  several.length <= count ? [...several] : Array.from({ length: count }, (_, i) => several[(seed + i * 5) % several.length] as T);
