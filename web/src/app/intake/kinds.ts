/** The kind of an imported file, by its name: what is inside decides on the server. */
export type FileKind = 'job' | 'package' | 'font' | 'picture' | 'svg' | 'words';

const ENDINGS: readonly (readonly [FileKind, RegExp])[] = [
  ['package', /\.zip$/i],
  ['job', /\.json$/i],
  ['font', /\.(ttf|otf|ttc|otc|woff2?)$/i],
  ['picture', /\.(png|jpe?g|webp)$/i],
  ['svg', /\.svg$/i],
  ['words', /\.(txt|md|markdown|html?|csv|tsv)$/i],
];

/** Undefined for what isn't taken anywhere. */
export const kindOf = ({ name }: Pick<File, 'name'>): FileKind | undefined => ENDINGS.find(([, ending]) => ending.test(name))?.[0];

/** The message for a file that isn't taken. */
export const unsupported = ({ name }: Pick<File, 'name'>): string =>
  `“${name}” is an unsupported file type. Supported: jobs, packages, SVG, pictures, fonts, text, Markdown, HTML and CSV.`;

/** For file fields. */
export const TAKEN = '.json,.zip,.svg,.txt,.md,.markdown,.html,.htm,.csv,.tsv,.png,.jpg,.jpeg,.webp,.ttf,.otf,.ttc,.otc,.woff,.woff2';

/** True for the text of an SVG. */
export const isSvgText = (text: string): boolean => /^\s*(<\?xml[^>]*>\s*)?<svg[\s/>]/.test(text);

/** The pasted file of its kind; undefined where there is none. Files come first, then the richest text. */
export function pastedFile({ files, getData }: { files: FileList; getData: (type: string) => string }): File | undefined {
  const [file] = files;
  if (file) return file;
  const [html, text] = [getData('text/html'), getData('text/plain')];
  if (isSvgText(text)) return new File([text], 'Pasted.svg');
  if (html !== '') return new File([html], 'Pasted.html');
  return text.trim() === '' ? undefined : new File([text], 'Pasted.txt');
}
