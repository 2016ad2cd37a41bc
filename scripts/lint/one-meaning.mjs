// An ESLint rule: a name is exported by one file only, so that it means one thing in the whole repository.
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import ts from 'typescript';
import { root } from '../steps.mjs';

const FOLDERS = ['core/src', 'command/src', 'server/src', 'web/src'];
const isChecked = (file) => FOLDERS.some((folder) => file.startsWith(`${folder}/`)) && !/\.spec\.ts$|testing\.ts$|\/migrations\//.test(file);

/** Names of the declarations that a file exports. */
function exportedNames(text) {
  const names = [];
  for (const statement of ts.createSourceFile('file.ts', text, ts.ScriptTarget.Latest).statements) {
    if (!ts.canHaveModifiers(statement) || !ts.getModifiers(statement)?.some(({ kind }) => kind === ts.SyntaxKind.ExportKeyword)) continue;
    if (ts.isVariableStatement(statement)) for (const { name } of statement.declarationList.declarations) names.push(name.text);
    else if (statement.name) names.push(statement.name.text);
  }
  return names.filter((name) => name !== undefined);
}

/** The files that export each name. */
function homes() {
  const files = execFileSync('git', ['ls-files', '--cached', '--others', '--exclude-standard', ...FOLDERS], { cwd: root, encoding: 'utf8', maxBuffer: 1e8 });
  const known = new Map();
  for (const file of files.split('\n').filter((name) => name.endsWith('.ts') && isChecked(name))) {
    let text;
    try {
      text = readFileSync(join(root, file), 'utf8');
    } catch {
      continue; // deleted, and not yet committed
    }
    for (const name of exportedNames(text)) known.set(name, [...(known.get(name) ?? []), file]);
  }
  return known;
}

let known;

export const oneMeaning = {
  meta: { type: 'problem', schema: [], messages: { homonym: '“{{name}}” is exported by {{file}} too. Give one of them another name.' } },
  create(context) {
    const file = relative(root, context.filename);
    if (!isChecked(file)) return {};
    known ??= homes();
    const check = (node, name) => {
      const [other] = (known.get(name) ?? []).filter((one) => one !== file);
      if (other) context.report({ node, messageId: 'homonym', data: { name, file: other } });
    };
    return {
      ExportNamedDeclaration({ declaration }) {
        if (!declaration) return;
        if (declaration.type === 'VariableDeclaration') for (const { id } of declaration.declarations) check(id, id.name);
        else if (declaration.id) check(declaration.id, declaration.id.name);
      },
    };
  },
};
