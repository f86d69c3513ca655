import ts from "typescript";
import { at } from "./lib.mjs";

// Types that are made of forms (`ValueOf<typeof form>`), written out: programs that read types word by word do not work them out.

const MADE = new Set(["ValueOf", "Shape"]);
const PLAIN = ts.NodeBuilderFlags.NoTruncation | ts.NodeBuilderFlags.InTypeAlias;

/** What is said of a field where its form is. */
const docOf = (symbol, checker) => {
  const said = ts.displayPartsToString(symbol.getDocumentationComment(checker));
  return said ? `/** ${said.replace(/\n/g, " ")} */\n` : "";
};

/** An object without a name, or one that the builder of forms made. */
const unnamed = (type) =>
  (type.flags & ts.TypeFlags.Object) !== 0 &&
  (type.symbol === undefined || (type.symbol.flags & (ts.SymbolFlags.Interface | ts.SymbolFlags.Class)) === 0) &&
  type.getCallSignatures().length === 0;

function written(type, checker, where) {
  if (type.isUnion() && !type.aliasSymbol) {
    const parts = type.types.filter((t) => (t.flags & ts.TypeFlags.Undefined) === 0);
    if (parts.some(unnamed)) return parts.map((t) => written(t, checker, where)).join(" | ");
  }
  if (checker.isArrayType(type)) return `(${written(checker.getTypeArguments(type)[0], checker, where)})[]`;
  const made = unnamed(type) && (!type.aliasSymbol || ["Flat", "Shape", "OneOfKinds"].includes(type.aliasSymbol.name));
  if (made && !checker.isTupleType(type) && type.getStringIndexType() === undefined)
    return `{\n${fields(type, checker, where)}\n}`;
  return checker.typeToString(type, where, PLAIN);
}

const fields = (type, checker, where) =>
  type
    .getProperties()
    .map((p) => {
      const maybe = (p.flags & ts.SymbolFlags.Optional) !== 0;
      const own = checker.getTypeOfSymbolAtLocation(p, where);
      return `${docOf(p, checker)}${JSON.stringify(p.name)}${maybe ? "?" : ""}: ${written(own, checker, where)};`;
    })
    .join("\n");

/** A program of these files, in which types that are made of forms are written out. */
export function programWrittenOut(sources) {
  const { options } = ts.parseJsonConfigFileContent(
    ts.readConfigFile(at("tsconfig.plain.json"), ts.sys.readFile).config,
    ts.sys,
    at("."),
  );
  const program = ts.createProgram(sources, options);
  const checker = program.getTypeChecker();
  const texts = new Map();
  for (const file of program.getSourceFiles()) {
    if (file.isDeclarationFile || file.fileName.includes("/node_modules/")) continue;
    const edits = [];
    for (const one of file.statements) {
      const made = ts.isInterfaceDeclaration(one) && one.heritageClauses?.[0]?.types[0];
      if (made && MADE.has(made.expression.getText(file)))
        edits.push([
          one.heritageClauses[0].getStart(file),
          one.end,
          `{\n${fields(checker.getTypeAtLocation(one), checker, one)}\n}`,
        ]);
      else if (ts.isTypeAliasDeclaration(one) && /^(ValueOf|Shape)</.test(one.type.getText(file)))
        edits.push([one.type.getStart(file), one.type.end, written(checker.getTypeAtLocation(one.type), checker, one)]);
    }
    if (edits.length === 0) continue;
    let text = file.text;
    for (const [from, to, by] of edits.reverse()) text = text.slice(0, from) + by + text.slice(to);
    // Names that the file does not have yet are brought into it.
    const brought = new Map();
    text = text.replace(/import\("([^"]+)"\)\.(\w+)/g, (_, from, name) => (brought.set(name, from), name));
    const imports = [...brought].map(([name, from]) => `import type { ${name} } from ${JSON.stringify(from)};`);
    texts.set(file.fileName, `${imports.join("\n")}\n${text}`);
  }
  const host = ts.createCompilerHost(options);
  const read = host.getSourceFile.bind(host);
  host.getSourceFile = (name, target, ...rest) =>
    texts.has(name) ? ts.createSourceFile(name, texts.get(name), target, true) : read(name, target, ...rest);
  return ts.createProgram(sources, options, host);
}
