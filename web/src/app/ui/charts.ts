/** Charts in the face of the page: each takes `Chart` from here, and registers what it is made of. */
import { Chart } from 'chart.js';

Object.assign(Chart.defaults.font, { family: getComputedStyle(document.body).fontFamily, size: 11 });

export { Chart };
