/** All texts that people read: the page's templates and strings, the strings of core, command and server, and the documents. */
import { readFileSync, readdirSync, statSync } from 'node:fs';
import { join, relative } from 'node:path';
import {
  type ParsedTemplate,
  TmplAstBoundAttribute,
  TmplAstBoundText,
  TmplAstRecursiveVisitor,
  TmplAstText,
  TmplAstTextAttribute,
  parseTemplate,
  tmplAstVisitAll,
} from '@angular/compiler';
import ts from 'typescript';
import { root } from './harness';

/** One text, where it stands, and what it is: a label is what a control is called. */
export interface ReadText {
  file: string;
  text: string;
  kind: 'label' | 'text';
}

/** Attributes that people read or hear. */
const SPOKEN = new Set(['title', 'placeholder', 'aria-label', 'label', 'alt', 'heading', 'unset']);
/** The placeholder of a value in a text. */
const VALUE = '{}';

function filesIn(folder: string, ends: readonly string[]): string[] {
  return readdirSync(join(root, folder), { recursive: true, encoding: 'utf8' })
    .filter((name) => ends.some((end) => name.endsWith(end)) && !/\.spec\.ts$|(^|\/)testing|fake-server|(^|\/)migrations\//.test(name))
    .map((name) => join(root, folder, name))
    .filter((path) => statSync(path).isFile());
}

const squeezed = (text: string): string => text.replace(/\s+/g, ' ').trim();
const inWords = (text: string): boolean => /[A-Za-z]{2}/.test(text);

/** The source of an expression in a template. */
const sourceOf = (value: object): string => ('source' in value && typeof value.source === 'string' ? value.source : '');

/** The strings an expression of a template shows. */
const stringsIn = (expression: string): string[] =>
  [...expression.matchAll(/'((?:[^'\\]|\\.)*)'/g)].map(([, text = '']) => text).filter((text) => text.includes(' ') || /^[A-Z]/.test(text));

function ofTemplate(file: string, template: string): ReadText[] {
  const found: ReadText[] = [];
  const add = (text: string, kind: ReadText['kind']): void => {
    if (inWords(text)) found.push({ file, text: squeezed(text), kind });
  };
  let depth: string[] = [];
  class Collector extends TmplAstRecursiveVisitor {
    override visitElement(element: Parameters<TmplAstRecursiveVisitor['visitElement']>[0]): void {
      depth.push(element.name);
      super.visitElement(element);
      depth.pop();
    }
    override visitText(text: TmplAstText): void {
      add(text.value, depth.at(-1) === 'button' || depth.at(-1) === 'th' || depth.at(-1) === 'dt' ? 'label' : 'text');
    }
    override visitBoundText(text: TmplAstBoundText): void {
      const source = text.sourceSpan.toString();
      const plain = squeezed(source.replace(/\{\{[\s\S]*?\}\}/g, VALUE));
      if (inWords(plain)) add(plain, 'text');
      for (const part of stringsIn(source)) add(part, 'text');
    }
    override visitTextAttribute({ name, value }: TmplAstTextAttribute): void {
      if (SPOKEN.has(name)) add(value, name === 'label' ? 'label' : 'text');
    }
    override visitBoundAttribute({ name, value }: TmplAstBoundAttribute): void {
      if (SPOKEN.has(name.replace(/^attr\./, ''))) for (const part of stringsIn(sourceOf(value))) add(part, 'text');
    }
  }
  const { nodes, errors }: ParsedTemplate = parseTemplate(template, file, { preserveWhitespaces: false });
  if (errors && errors.length > 0) throw new Error(`${file}: ${errors[0]?.msg ?? ''}`);
  depth = [];
  tmplAstVisitAll(new Collector(), nodes);
  return found;
}

/** Properties of objects that hold no text for people. */
const SILENT = new Set(['template', 'templateUrl', 'styles', 'styleUrl', 'selector', 'host', 'picture', 'path', 'icon']);

function ofScript(file: string, source: string): ReadText[] {
  const found: ReadText[] = [];
  const add = (text: string): void => {
    const plain = squeezed(text);
    // Words with a space between, or one word with a capital: all else names something for programs.
    if (
      !inWords(plain) ||
      !(/[a-z’}] [a-z“{]/i.test(plain) || /^[A-Z][a-z]+$/.test(plain)) ||
      /[<>{}]\s*[a-z-]+=|^[a-z-]+: [^.]*;$|^[#.[]/.test(plain.replaceAll(VALUE, ''))
    )
      return;
    found.push({ file, text: plain, kind: 'text' });
  };
  const visit = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node)) return;
    if (ts.isPropertyAssignment(node) && SILENT.has(node.name.getText())) {
      if (node.name.getText() === 'template' && ts.isStringLiteralLike(node.initializer)) found.push(...ofTemplate(file, node.initializer.text));
      return;
    }
    if (ts.isStringLiteralLike(node)) add(node.text);
    else if (ts.isTemplateExpression(node)) add([node.head.text, ...node.templateSpans.map(({ literal }) => VALUE + literal.text)].join(''));
    ts.forEachChild(node, visit);
  };
  visit(ts.createSourceFile(file, source, ts.ScriptTarget.Latest, true));
  return found;
}

const read = (paths: readonly string[], take: (file: string, content: string) => ReadText[]): ReadText[] =>
  paths.flatMap((path) => take(relative(root, path), readFileSync(path, 'utf8')));

/** The texts of the page: its templates and strings. */
export const textsOfPage = (): ReadText[] => [
  ...read(filesIn('web/src/app', ['.html']), ofTemplate),
  ...read(
    filesIn('web/src/app', ['.ts']).filter((path) => !path.endsWith('worker.ts')),
    ofScript,
  ),
];

/** The texts of each key of the bench: its name, and the text. */
export const keyTexts = (): RegExpMatchArray[] =>
  filesIn('web/src/app/bench', ['keys.ts', '.pass.ts']).flatMap((path) => [
    ...readFileSync(path, 'utf8').matchAll(/\bid: '([\w-]+)',[^{}]*?\bsays: '((?:[^'\\]|\\.)*)'/g),
  ]);

/** The strings of core, command and server. */
export const textsOfPrograms = (): ReadText[] => ['core/src', 'command/src', 'server/src'].flatMap((folder) => read(filesIn(folder, ['.ts']), ofScript));

/** The documents, a paragraph a text; code and addresses left out. */
export const textsOfDocuments = (): ReadText[] =>
  read([join(root, 'README.md'), ...filesIn('docs', ['.md'])], (file, content) =>
    content
      .replace(/```[\s\S]*?```|`[^`]*`|\]\([^)]*\)/g, '')
      .split(/\n\s*\n/)
      .filter(inWords)
      .map((text) => ({ file, text: squeezed(text), kind: 'text' as const })),
  );
