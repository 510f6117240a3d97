import ts from "typescript";

/** Attributes and properties that are never read by people, whatever stands in them. */
const silent = new Set([
  "className",
  "class",
  "id",
  "key",
  "to",
  "href",
  "src",
  "d",
  "viewBox",
  "style",
  "type",
  "role",
  "rel",
  "accept",
  "queryKey",
]);

/** What is filled in. */
const hole = "{…}";

const letters = /\p{L}/u;
const classLike = /^[a-z0-9:\-[\]/.%#()_&>*!,=+~^$'"|{}…\s]+$/;

/** A sentence, or a word as people read it; not a name of the code, an address, or a list of classes. */
function isRead(text: string) {
  const bare = text.replaceAll(hole, " ").trim();
  if (!/\p{L}{2}/u.test(bare) && !(letters.test(bare) && text.includes(hole) && text.includes(" "))) return false;
  if (/^(https?:|\/|\.|#|--|@)/.test(bare)) return false;
  if (!/\s/.test(bare)) return false;
  // Lower case throughout with a hyphen, a colon, or a bracket inside words: classes of the style sheet, queries, keys.
  return !(
    classLike.test(bare) &&
    /[a-z0-9][-:[\]/][a-z0-9[\]]|\b(flex|grid|block|hidden|truncate|absolute|relative|sticky|uppercase|italic)\b/.test(bare)
  );
}

/** Collects what people read in a source, in the order in which it stands there; what is filled in is a {…}. */
export function sentences(name: string, text: string): string[] {
  const file = ts.createSourceFile(name, text, ts.ScriptTarget.Latest, true, name.endsWith("x") ? ts.ScriptKind.TSX : ts.ScriptKind.TS);
  const found: string[] = [];
  const add = (said: string) => {
    const one = said.replace(/\s+/g, " ").trim();
    if (one && !found.includes(one)) found.push(one);
  };

  /** The text of a literal with its holes; null where it is none. */
  const literal = (node: ts.Node): string | null =>
    ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)
      ? node.text
      : ts.isTemplateExpression(node)
        ? node.head.text + node.templateSpans.map((s) => said(s.expression) + s.literal.text).join("")
        : null;

  /** What an expression within a sentence says: a word, one of two words, or something that is filled in. */
  const said = (node: ts.Expression): string => {
    if (ts.isParenthesizedExpression(node)) return said(node.expression);
    const own = literal(node);
    if (own !== null) return own;
    if (ts.isConditionalExpression(node)) {
      const [yes, no] = [said(node.whenTrue), said(node.whenFalse)];
      return yes === hole && no === hole ? hole : `{${yes} | ${no}}`;
    }
    return hole;
  };

  const inline = (node: ts.JsxChild): string => {
    if (ts.isJsxText(node)) return node.text.replace(/\s*\n\s*/g, " ");
    if (ts.isJsxExpression(node)) return node.expression ? said(node.expression) : "";
    if (ts.isJsxElement(node)) return node.children.map(inline).join("");
    return "";
  };

  const hasText = (node: ts.JsxChild): boolean =>
    (ts.isJsxText(node) && letters.test(node.text)) || (ts.isJsxExpression(node) && !!node.expression && literal(node.expression) !== null);

  const silentHere = (node: ts.Node) =>
    ts.isImportDeclaration(node) ||
    ts.isExportDeclaration(node) ||
    ts.isTypeNode(node) ||
    ts.isTypeAliasDeclaration(node) ||
    (ts.isJsxAttribute(node) && silent.has(node.name.getText(file))) ||
    (ts.isPropertyAssignment(node) && silent.has(node.name.getText(file)));

  /** Words that stand alone are read where they are a label, a title, or the text of an element. */
  const alone = (node: ts.Node) =>
    (ts.isJsxAttribute(node.parent) &&
      !silent.has(node.parent.name.getText(file)) &&
      /label|title|placeholder|alt|name|hint|verb/i.test(node.parent.name.getText(file))) ||
    (ts.isPropertyAssignment(node.parent) && /^(label|title|name|hint|text|words|one|many)$/.test(node.parent.name.getText(file)));

  const visit = (node: ts.Node, told: boolean): void => {
    if (silentHere(node)) return;
    if ((ts.isJsxElement(node) || ts.isJsxFragment(node)) && !told && node.children.some(hasText)) {
      const whole = node.children.map(inline).join("");
      if (letters.test(whole.replaceAll(hole, ""))) add(whole);
      told = true;
    } else if (ts.isJsxElement(node) || ts.isJsxFragment(node)) {
      told = told && !node.children.some(ts.isJsxExpression);
    }
    const own = literal(node);
    if (own !== null && !told) {
      const compared =
        ts.isBinaryExpression(node.parent) &&
        [ts.SyntaxKind.EqualsEqualsEqualsToken, ts.SyntaxKind.ExclamationEqualsEqualsToken].includes(node.parent.operatorToken.kind);
      if (!compared && !ts.isCaseClause(node.parent) && (isRead(own) || (alone(node) && /^\p{Lu}\p{L}+/u.test(own)))) add(own);
    }
    // What a sentence is made of was told with it; what its elements carry (a title, a dialog within) was not.
    ts.forEachChild(node, (child) =>
      visit(
        child,
        told && !ts.isJsxAttributes(child) && !ts.isArrowFunction(child) && !ts.isCallExpression(child) && !ts.isBinaryExpression(child),
      ),
    );
  };
  visit(file, false);
  return found;
}
