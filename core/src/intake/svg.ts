/** SVG: its text as blocks, the rest as the picture underneath. */
import { takeSvg } from '../svg-text';
import type { Reader } from './take';

export const svgReader: Reader = {
  id: 'svg',
  name: 'SVG',
  mediaType: 'image/svg+xml',
  extensions: ['.svg'],
  take(text, faces, options) {
    const { job, picture, notes } = takeSvg(text, faces, options);
    return {
      job,
      picture,
      notes: [
        ...[...notes.faces].map(([wanted, faceId]) => `The face “${wanted}” is missing; “${faceId}” replaces it.`),
        ...notes.left.map(({ words, why }) => `“${words}” stays in the picture: ${why}.`),
      ],
    };
  },
};
