export { CASES, type LetterCase, STYLE_PROPERTIES } from './properties';
export {
  DEFAULT_STYLE,
  type Style,
  type StyleKey,
  type StyleKind,
  type StyleTable,
  styleKind,
  styleName,
  styleProperties,
  styleSchema,
  upgradeStyle,
  upgradedStyle,
} from './style';
export { type Changes, type SpecPart, type StyleProperty, property } from './style-property';
