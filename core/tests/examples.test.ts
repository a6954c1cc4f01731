/// <reference types="vite/client" />
import { readFileSync } from 'node:fs';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';

/** Every module of core by its path, and its text. */
const modules = import.meta.glob<Record<string, unknown>>('../src/**/*.ts', { eager: true });
const everything = Object.assign({}, ...Object.values(modules)) as Record<string, unknown>;
const textOf = (path: string) => readFileSync(new URL(path, import.meta.url), 'utf8');

interface Example {
  name: string;
  expression: string;
  expected: string;
}

/** Statements of a module that are exported, with their names and doc comments. */
function exportsOf(path: string): { name: string; doc: string | null }[] {
  const source = ts.createSourceFile(path, textOf(path), ts.ScriptTarget.ESNext, true);
  return source.statements
    .filter(
      (statement) =>
        ts.canHaveModifiers(statement) &&
        ts
          .getModifiers(statement)
          ?.some((modifier) => modifier.kind === ts.SyntaxKind.ExportKeyword),
    )
    .map((statement) => {
      const named = ts.isVariableStatement(statement)
        ? statement.declarationList.declarations[0]!.name
        : ts.getNameOfDeclaration(statement as ts.Statement & ts.Declaration);
      const docs = ts.getJSDocCommentsAndTags(statement).filter(ts.isJSDoc);
      return {
        name: named?.getText(source) ?? '?',
        doc: docs.map((doc) => doc.getText(source)).join('\n') || null,
      };
    });
}

/** `expression // expected`, and after a colon and a blank words that say why. */
function examplesOf(path: string): Example[] {
  return exportsOf(path).flatMap(({ name, doc }) =>
    [...(doc ?? '').matchAll(/@example (.+?) \/\/ (.+)$/gm)].map(([, expression, rest]) => ({
      name,
      // The compiler's mark for “not null here” means nothing at run time.
      expression: expression!.replace(/(?<=[\w)\]])!(?=[.[])/g, ''),
      expected: /^[[{'"]/.test(rest!) ? rest! : rest!.replace(/: .*$/, ''),
    })),
  );
}

function evaluate(path: string, expression: string): unknown {
  const scope = { ...everything, ...modules[path] };
  const names = Object.keys(scope).filter((name) => name !== 'default');
  return new Function(...names, `return (${expression});`)(...names.map((name) => scope[name]));
}

/** Equal, numbers to the digits that are written. */
function expectEqual(value: unknown, expected: unknown, decimals: number): void {
  if (typeof expected === 'number') expect(value).toBeCloseTo(expected, decimals);
  else if (Array.isArray(expected)) {
    expect(value).toHaveLength(expected.length);
    expected.forEach((own, i) => expectEqual((value as unknown[])[i], own, decimals));
  } else if (expected !== null && typeof expected === 'object') {
    expect(Object.keys(value as object).sort()).toEqual(Object.keys(expected).sort());
    for (const [key, own] of Object.entries(expected))
      expectEqual((value as Record<string, unknown>)[key], own, decimals);
  } else expect(value).toBe(expected);
}

const paths = Object.keys(modules).filter((path) => !path.endsWith('/index.ts'));

describe('doc comments of core', () => {
  it('stand on every export', () => {
    const without = paths.flatMap((path) =>
      exportsOf(path)
        .filter(({ doc }) => doc === null)
        .map(({ name }) => `${path} ${name}`),
    );
    expect(without).toEqual([]);
  });

  describe.each(paths.map((path) => [path, examplesOf(path)] as const).filter(([, e]) => e.length))(
    '%s',
    (path, examples) => {
      it.each(examples)('$name: $expression', ({ expression, expected }) => {
        const digits = [...expected.matchAll(/\d\.(\d+)/g)].map(([, own]) => own!.length);
        // Whole numbers are exact but for the last digits of a double.
        expectEqual(
          evaluate(path, expression),
          evaluate(path, expected),
          digits.length > 0 ? Math.max(...digits) : 6,
        );
      });
    },
  );
});
