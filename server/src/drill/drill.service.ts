import { randomUUID } from 'node:crypto';
import { type DrillResult, type KeptResult, type Progress, STORED_RESULT, scoreOf } from '@jentrix/core/drill';
import { progressOf } from '@jentrix/core/drill/progress';
import { fromStored, toStored } from '@jentrix/core/stored';
import type { DataSource, Repository } from 'typeorm';
import { DrillResultEntity } from './drill-result.entity';

/** Older ones than so many are forgotten: all of them are read to tell of progress. */
const MOST_KEPT = 5000;

/** The exercises that were done here. */
export class DrillService {
  private readonly rows: Repository<DrillResultEntity>;

  constructor(dataSource: DataSource) {
    this.rows = dataSource.getRepository(DrillResultEntity);
  }

  async keep(result: DrillResult): Promise<KeptResult> {
    const id = randomUUID();
    // One form of a moment, so that they sort as text.
    const at = new Date(result.at).toISOString();
    await this.rows.insert({ id, at, document: JSON.stringify(toStored(STORED_RESULT, { ...result, at })) });
    const [tooOld] = await this.rows.find({ order: { at: 'DESC', id: 'DESC' }, skip: MOST_KEPT, take: 1 });
    if (tooOld) await this.rows.delete({ id: tooOld.id });
    return { id, score: scoreOf(result.answer), result: { ...result, at } };
  }

  /** Newest first. */
  async list(page: number, pageSize: number): Promise<{ items: KeptResult[]; total: number; page: number; pageSize: number }> {
    const [rows, total] = await this.rows.findAndCount({ order: { at: 'DESC', id: 'DESC' }, skip: (page - 1) * pageSize, take: pageSize });
    return { items: rows.flatMap(readable), total, page, pageSize };
  }

  async progress(): Promise<Progress> {
    const rows = await this.rows.find({ order: { at: 'ASC', id: 'ASC' } });
    return progressOf(rows.flatMap(readable).map(({ result }) => result));
  }

  async forget(): Promise<void> {
    await this.rows.clear();
  }
}

/** One that can’t be read costs no other. */
function readable({ id, document }: DrillResultEntity): KeptResult[] {
  try {
    const result = fromStored(STORED_RESULT, JSON.parse(document));
    return [{ id, score: scoreOf(result.answer), result }];
  } catch (error) {
    console.error(`A result of the drill is left out: ${error instanceof Error ? error.message : String(error)}`);
    return [];
  }
}
