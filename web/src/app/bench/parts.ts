import { sortingKit } from '../ui/sort-by-drag.directive';

/**
 * Has the parts at hand that the bench's templates defer until they are wanted, so that they show at once, and without the server too.
 * Parts that can't be had now are asked for again by the template, which a template's own prefetch would not do.
 */
export const preloadParts = (): Promise<unknown> =>
  Promise.allSettled([
    import('@jentrix/core/findings/typing'),
    import('./copy-column/find-panel'),
    import('./settle-conflict'),
    import('../api/packed'),
    import('./first-cut/first-cut'),
    import('./masthead/who-is-here'),
    import('./table/colour-pick'),
    import('./table/frame-handles'),
    import('./table/letter-handles'),
    import('./table/line-handles'),
    import('./table/look-layers'),
    import('./table/path-handles'),
    import('./table/reference-layer'),
    import('./table/second-sheet'),
    import('./table/sheet-guides'),
    import('./table/sheet-row'),
    sortingKit(),
  ]);
