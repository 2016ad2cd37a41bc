// npm run texts: the catalogue of the page's texts, docs/texts.json, anew from the templates (Angular's own extraction).
import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ensureInstalled } from './install.mjs';
import { root } from './steps.mjs';

await ensureInstalled();
execFileSync(process.execPath, ['scripts/angular.mjs', 'web:extract-i18n'], { cwd: root, stdio: ['ignore', 'ignore', 'inherit'] });
const file = join(root, 'docs/texts.json');
const { locale, translations } = JSON.parse(readFileSync(file, 'utf8'));
const own = Object.entries(translations).filter(([id]) => !id.startsWith('ngb.'));
const sorted = own.map(([id, text]) => [id, text.trim().replaceAll(/\s+/g, ' ')]).sort(([a], [b]) => (a < b ? -1 : 1));
writeFileSync(file, `${JSON.stringify({ locale, translations: Object.fromEntries(sorted) }, null, 2)}\n`);
console.log(`${sorted.length} texts in docs/texts.json.`);
