export { SvgError, readSvg } from './document';
export { type TakenSvg, takeSvg, textsOf } from './take-svg';
export type { Notes } from './look';
export { type RefinedSvg, SVG_STEPS, refineSvg } from './refine-svg';
