/** SVG pictures that are laid into a box. */
import { type PictureNode, aspectOf } from '../drawing';

const ROOT = /<svg\b[^>]*>/;
const ATTRIBUTE = (name: string): RegExp => new RegExp(`\\s${name}\\s*=\\s*("[^"]*"|'[^']*')`);

/**
 * An SVG whose own outermost element says how it fills the box it is laid into. Readers differ in whether they look there or at the
 * element that shows it: so both say the same.
 * @param svg as kept: with a width, a height and a `viewBox`.
 */
export function fitted(svg: string, fit: PictureNode['fit']): string {
  return svg.replace(ROOT, (root) => {
    const bare = root.replace(ATTRIBUTE('preserveAspectRatio'), '');
    const own = root.slice(0, 4) + ` preserveAspectRatio="${aspectOf(fit)}"` + bare.slice(4);
    const [width, height] = ['width', 'height'].map((name) => Number.parseFloat(ATTRIBUTE(name).exec(root)?.[1]?.slice(1, -1) ?? ''));
    const [, , boxWidth, boxHeight] = (ATTRIBUTE('viewBox').exec(root)?.[1]?.slice(1, -1) ?? '').split(/[\s,]+/).map(Number);
    if (!width || !height || !boxWidth || !boxHeight || Math.abs(width / height - boxWidth / boxHeight) < 1e-3 * (width / height)) return own;
    // It has room beside its drawing: without a size of its own, only the drawing counts, in every reader.
    return own.replace(ATTRIBUTE('width'), ` width="${boxWidth}"`).replace(ATTRIBUTE('height'), ` height="${boxHeight}"`);
  });
}
