import { Component, computed, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { drawLine } from '@jentrix/core/drawing';
import { DEFAULT_STYLE, type Style } from '@jentrix/core/job';
import type { SetLine } from '@jentrix/core/setting';
import { EngineService } from '../engine/engine.service';
import { Drawing } from './drawing';

@Component({
  imports: [Drawing],
  template: `
    <svg><svg:g [jxDrawing]="nodes()"></svg:g></svg>
  `,
})
class Host {
  readonly line = signal(lineIn({}));
  readonly colour = signal<string | undefined>(undefined);
  readonly nodes = computed(() => {
    const colour = this.colour();
    return drawLine(this.line(), { words: 'VA', frame: { xPt: 5, yPt: 0, widthPt: 14, heightPt: 20 }, ...(colour === undefined ? {} : { colour }) });
  });
}

/** Two letters, the first 7 points wide, in a style. */
function lineIn(change: Partial<Style>): SetLine {
  const style = { ...DEFAULT_STYLE, ...change };
  const glyphs = [5, 12].map((xPt, cluster) => ({ glyphId: 7, cluster, xPt, yPt: 20, offsetPt: 0 }));
  const run = { start: 0, end: 2, style, scale: 0.02, xScale: 0.01, glyphs, rules: [{ xPt: 5, yPt: 22, widthPt: 14, heightPt: 1 }] };
  return { start: 0, end: 2, visibleEnd: 2, leftPt: 5, widthPt: 14, baselinePt: 20, leadingPt: 24, sizePt: 20, runs: [run] };
}

describe('a drawing on the page', () => {
  async function draw(change: Partial<Style>, colour?: string): Promise<HTMLElement> {
    TestBed.configureTestingModule({
      providers: [{ provide: EngineService, useValue: { drawing: () => ({ outlines: new Map([[7, 'M0,0L100,-50Z']]) }) } }],
    });
    const fixture = TestBed.createComponent(Host);
    fixture.componentInstance.line.set(lineIn(change));
    fixture.componentInstance.colour.set(colour);
    await fixture.whenStable();
    return fixture.nativeElement as HTMLElement;
  }
  const paths = (host: HTMLElement) => [...host.querySelectorAll('path')];

  it('stand where the setting put them, with rules beside', async () => {
    const host = await draw({ colour: '#123456' });
    expect(paths(host).map((path) => path.getAttribute('d'))).toEqual(['M5,20m0,0l1,-1z', 'M12,20m0,0l1,-1z']);
    expect(paths(host).some((path) => path.hasAttribute('transform'))).toBeFalse();
    expect(paths(host).map((path) => path.dataset['at'])).toEqual(['0', '1']);
    expect(paths(host)[0]?.parentElement?.getAttribute('fill')).toBe('#123456');
    expect(host.querySelector('rect')?.getAttribute('width')).toBe('14');
  });

  it('are written in points where paint is measured in points', async () => {
    const host = await draw({ gradient: { to: '#ffffff', angleDeg: 90 } });
    expect(paths(host)[0]?.getAttribute('d')).toBe('M5,20m0,0l1,-1z');
    const gradient = host.querySelector('linearGradient');
    expect(paths(host)[0]?.parentElement?.getAttribute('fill')).toBe(`url(#${gradient?.id})`);
    expect([...(gradient?.children ?? [])].map((stop) => stop.getAttribute('stop-color'))).toEqual([DEFAULT_STYLE.colour, '#ffffff']);
  });

  it('throw their shadow once, behind themselves', async () => {
    const host = await draw({ shadow: { xMilliem: 50, yMilliem: 25, blurMilliem: 0, colour: '#010203' }, sizePt: 20 });
    const [shadow, letters] = [...host.querySelectorAll('g[fill]')];
    expect([shadow?.getAttribute('fill'), shadow?.parentElement?.getAttribute('transform')]).toEqual(['#010203', 'translate(1 0.5)']);
    expect(letters?.getAttribute('fill')).toBe(DEFAULT_STYLE.colour);
    expect(letters?.closest('[transform]')).toBeNull();
  });

  it('are all in one colour where the deck asks for it', async () => {
    const host = await draw(
      { gradient: { to: '#ffffff', angleDeg: 90 }, shadow: { xMilliem: 50, yMilliem: 25, blurMilliem: 0, colour: '#010203' } },
      '#abcdef',
    );
    expect([...host.querySelectorAll('g[fill]')].map((group) => group.getAttribute('fill'))).toEqual(['#abcdef']);
    expect(host.querySelector('linearGradient')).toBeNull();
  });
});
