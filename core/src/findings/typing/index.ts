/** Marks turned right as they are typed, apart from the other rules: the page wants it once something is typed. */
export { helpTyping } from '../rules/typed-marks';
