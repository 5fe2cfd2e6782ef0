/**
 * React Compiler keeps what a component read while it was drawn, until its hooks and properties say otherwise. What is
 * read past them (a store's `getState()`, a module's variable, a field of a module's object) would be kept for ever:
 * here every component and hook is looked through for that, and every function it calls while it is drawn.
 */
import { readFileSync, readdirSync } from 'node:fs';
import { join, relative } from 'node:path';
import ts from 'typescript';

/** Functions given to these are run while the component is drawn. */
const RUN_AT_ONCE =
  /^(map|flatMap|filter|find|findLast|findIndex|some|every|reduce|forEach|sort|toSorted|from|fromEntries|useMemo)$/;

interface Drawn {
  readonly source: ts.SourceFile;
  readonly calls: ReadonlySet<string>;
  /** What it reads past hooks, as it is written. */
  past: string | undefined;
}

const sources = readdirSync(__dirname, { recursive: true, encoding: 'utf8' })
  .filter((f) => /\.tsx?$/.test(f) && !f.includes('.test.'))
  .map((f) => join(__dirname, f))
  .map((f) => ts.createSourceFile(f, readFileSync(f, 'utf8'), ts.ScriptTarget.Latest, true));

const declared = (source: ts.SourceFile) =>
  source.statements.filter(ts.isVariableStatement).flatMap((s) => [...s.declarationList.declarations]);

/** Objects of the program's own classes that live as long as the page. */
const living = new Set(
  sources.flatMap(declared).flatMap(({ name, initializer }) => {
    const made = initializer && ts.isNewExpression(initializer) ? initializer.expression.getText() : 'Map';
    return /^(Weak)?(Map|Set)$/.test(made) ? [] : [name.getText()];
  }),
);

const isFunction = (node: ts.Node): boolean =>
  ts.isArrowFunction(node) ||
  ts.isFunctionExpression(node) ||
  ts.isFunctionDeclaration(node) ||
  ts.isMethodDeclaration(node);

/** The name of what is called: of a method, that. */
const calledBy = ({ expression: e }: ts.CallExpression): string =>
  ts.isPropertyAccessExpression(e) ? e.name.text : e.getText();

function lookThrough(body: ts.Node, variables: ReadonlySet<string>): Drawn {
  const calls = new Set<string>();
  let past: string | undefined;
  const look = (node: ts.Node): void => {
    const { parent } = node;
    const runs = ts.isCallExpression(parent) && RUN_AT_ONCE.test(calledBy(parent));
    if (node !== body && isFunction(node) && !runs) return;
    if (ts.isCallExpression(node)) {
      if (calledBy(node) === 'getState') past ??= node.getText();
      if (ts.isIdentifier(node.expression)) calls.add(node.expression.text);
    }
    if (ts.isIdentifier(node) && variables.has(node.text)) past ??= node.text;
    if (ts.isPropertyAccessExpression(node) && living.has(node.expression.getText())) past ??= node.getText();
    ts.forEachChild(node, look);
  };
  look(body);
  return { source: body.getSourceFile(), calls, past };
}

/** Every function of a module, by its name and file. */
function functionsOf(source: ts.SourceFile): [name: string, drawn: Drawn][] {
  const variables = new Set(
    declared(source)
      .filter((d) => d.parent.flags & ts.NodeFlags.Let)
      .map((d) => d.name.getText()),
  );
  const plain = source.statements.flatMap((s) =>
    ts.isFunctionDeclaration(s) && s.name && s.body ? [[s.name.text, s.body] as const] : [],
  );
  const arrows = declared(source).flatMap(({ name, initializer: made }) => {
    const given = made && ts.isCallExpression(made) ? made.arguments[0] : made;
    return given && isFunction(given)
      ? [[name.getText(), (given as ts.ArrowFunction | ts.FunctionExpression).body] as const]
      : [];
  });
  return [...plain, ...arrows].map(([name, body]) => [name, lookThrough(body, variables)]);
}

const imports = (source: ts.SourceFile): ReadonlySet<string> =>
  new Set(
    source.statements.filter(ts.isImportDeclaration).flatMap((i) => {
      const bindings = i.importClause?.namedBindings;
      return bindings && ts.isNamedImports(bindings) ? bindings.elements.map((e) => e.name.text) : [];
    }),
  );

it('what a component or a hook reads while it is drawn, it reads through hooks', () => {
  const functions = sources.flatMap(functionsOf);
  const named = (name: string, from: ts.SourceFile) => {
    const all = functions.filter(([n]) => n === name);
    const own = all.find(([, d]) => d.source === from);
    return (own ?? (imports(from).has(name) ? all[0] : undefined))?.[1];
  };
  for (let changed = true; changed;) {
    changed = false;
    for (const [, drawn] of functions) {
      const call = [...drawn.calls].find((c) => !/^use[A-Z]/.test(c) && named(c, drawn.source)?.past);
      if (drawn.past !== undefined || call === undefined) continue;
      drawn.past = `${call}: ${named(call, drawn.source)!.past}`;
      changed = true;
    }
  }
  const components = functions.filter(([name]) => /^(use)?[A-Z][a-z]/.test(name));
  expect(components.length).toBeGreaterThan(200);
  const wrong = components.filter(([, { past }]) => past !== undefined);
  expect(wrong.map(([name, d]) => `${relative(__dirname, d.source.fileName)}, ${name}: ${d.past}`)).toEqual(
    [],
  );
});
