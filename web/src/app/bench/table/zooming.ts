/** Zooming and panning by wheel, drag and fingers. Loaded once the first letters are there: until then the sheet stands where it was put. */
import { select } from 'd3-selection';
import { type D3ZoomEvent, zoom, zoomIdentity } from 'd3-zoom';
import { SCALES, type TableView } from './sheet-view';

export interface ZoomingOptions {
  view: TableView;
  /** The room of the sheet, in pixels: known, since asking the page would have it laid out on the spot. */
  room: () => { width: number; height: number };
  /** True where something else than the sheet is taken hold of. */
  isTaken: (event: MouseEvent | TouchEvent) => boolean;
  /** Called for every view; `byHand` where neither `show` nor the beginning brought it. */
  shown: (view: TableView, byHand: boolean) => void;
}

export interface Zooming {
  show(view: TableView): void;
  stop(): void;
}

export function startZooming(surface: SVGSVGElement, { view, room, isTaken, shown }: ZoomingOptions): Zooming {
  const zoomer = zoom<SVGSVGElement, unknown>()
    .scaleExtent([...SCALES])
    .clickDistance(3)
    .extent(() => [
      [0, 0],
      [room().width, room().height],
    ])
    .filter((event: MouseEvent | WheelEvent | TouchEvent) => {
      if (event.type === 'dblclick') return false;
      // Two fingers zoom wherever they are; one moves the sheet where a mouse would.
      const begins = 'touches' in event ? event.touches.length < 2 : event.type === 'mousedown';
      if (!('touches' in event) && event.type !== 'wheel' && event.button !== 0 && event.button !== 1) return false;
      return !begins || !isTaken(event);
    })
    .on('zoom', ({ transform: { x, y, k }, sourceEvent }: D3ZoomEvent<SVGSVGElement, unknown>) => shown({ x, y, k }, Boolean(sourceEvent)));
  const selection = select(surface);
  const show = ({ x, y, k }: TableView): void => zoomer.transform(selection, zoomIdentity.translate(x, y).scale(k));
  selection.call(zoomer);
  show(view);
  return { show, stop: () => void selection.on('.zoom', null) };
}
