import { readFileSync, readdirSync, existsSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import ts from 'typescript';

/**
 * A rule against circles of files that import one another, types as well: what two of them share stands in
 * a third. The rule of the import plugin looks at values alone.
 */

const ROOTS = ['core/src', 'contract/src', 'server/src', 'app/src'];
const ENDINGS = ['', '.ts', '.tsx', '/index.ts'];

/** @type {Map<string, string[]> | null} */
let circles = null;

function filesIn(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return entry.name === 'node_modules' ? [] : filesIn(path);
    return /\.tsx?$/u.test(entry.name) ? [path] : [];
  });
}

/** Which files each file imports, its own ones alone. */
export function importsOf(files) {
  const known = new Set(files);
  return new Map(
    files.map((file) => {
      const { importedFiles } = ts.preProcessFile(readFileSync(file, 'utf8'), true, true);
      const found = importedFiles.flatMap(({ fileName }) => {
        if (!fileName.startsWith('.')) return [];
        const path = resolve(dirname(file), fileName);
        return ENDINGS.map((end) => path + end)
          .filter((it) => known.has(it))
          .slice(0, 1);
      });
      return [file, found];
    }),
  );
}

/** For each file that is in a circle, the others of it (Tarjan, 1972: strongly connected components). */
export function circlesOf(imports) {
  const at = new Map();
  const low = new Map();
  const stack = [];
  const found = new Map();
  const visit = (file) => {
    at.set(file, at.size);
    low.set(file, at.get(file));
    stack.push(file);
    for (const next of imports.get(file) ?? []) {
      if (!at.has(next)) visit(next);
      if (stack.includes(next)) low.set(file, Math.min(low.get(file), low.get(next)));
    }
    if (low.get(file) !== at.get(file)) return;
    const circle = stack.splice(stack.indexOf(file));
    if (circle.length > 1) for (const it of circle) found.set(it, circle);
  };
  for (const file of imports.keys()) if (!at.has(file)) visit(file);
  return found;
}

export default {
  meta: {
    type: 'problem',
    schema: [],
    messages: { circle: 'This file is in a circle of imports with {{others}}.' },
  },
  create(context) {
    circles ??= circlesOf(
      importsOf(
        ROOTS.map((root) => join(context.cwd, root))
          .filter(existsSync)
          .flatMap(filesIn),
      ),
    );
    return {
      Program(node) {
        const circle = circles.get(context.filename);
        if (!circle) return;
        const others = circle.filter((it) => it !== context.filename);
        const names = others.map((it) => it.slice(context.cwd.length + 1));
        context.report({ node, messageId: 'circle', data: { others: names.join(', ') } });
      },
    };
  },
};
