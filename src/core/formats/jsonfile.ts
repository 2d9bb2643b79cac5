import { findNodeAtLocation, parseTree, printParseErrorCode, type Node, type ParseError } from 'jsonc-parser';

/** Text that is not JSON, and the line on which it stops being so. */
export class UnreadableJson extends Error {
  readonly line: number;
  constructor(sentence: string, line: number) {
    super(sentence);
    this.line = line;
  }
}
const lineAt = (text: string, offset: number): number => text.slice(0, offset).split('\n').length;

/** No file of ours goes nearly as deep, and whatever reads it goes down with it. */
const DEEPEST = 200;
/** Where a text goes deeper than that, whatever else it is; null where it does not. */
function tooDeepAt(text: string): number | null {
  let depth = 0;
  // Texts are passed over whole, so that brackets within them do not count.
  for (const found of text.matchAll(/"(?:[^"\\]|\\.)*"|[[\]{}]/gs)) {
    const [sign = ''] = found;
    if (sign === '[' || sign === '{') depth++;
    else if (sign === ']' || sign === '}') depth--;
    if (depth > DEEPEST) return found.index;
  }
  return null;
}

/**
 * A JSON file as a value, with the line on which each of its parts stands. Comments and trailing commas are not JSON.
 * Throws UnreadableJson.
 */
export function readJsonFile(text: string): {
  readonly value: unknown;
  readonly lineOf: (path: readonly (string | number)[]) => number;
} {
  const plain = text.replace(/^\uFEFF/, '');
  const deep = tooDeepAt(plain);
  if (deep !== null)
    throw new UnreadableJson(
      `It goes deeper than ${DEEPEST} lists and objects within each other.`,
      lineAt(plain, deep),
    );
  const errors: ParseError[] = [];
  const tree: Node | undefined = parseTree(plain, errors, { disallowComments: true, allowTrailingComma: false });
  const first = errors[0];
  if (first || !tree)
    throw new UnreadableJson(
      tree && first
        ? `This is not JSON: ${printParseErrorCode(first.error)
            .replace(/([a-z])([A-Z])/g, '$1 $2')
            .toLowerCase()}.`
        : 'The file is empty.',
      first ? lineAt(plain, first.offset) : 1,
    );
  return {
    value: JSON.parse(plain) as unknown,
    lineOf: (path) => {
      // The nearest part that is there, since what is missing stands nowhere.
      for (let length = path.length; length > 0; length--) {
        const node = findNodeAtLocation(tree, path.slice(0, length));
        if (node) return lineAt(plain, node.offset);
      }
      return 1;
    },
  };
}

/** A path as yup writes it, `scenes[0].steps[2].wording`, as names and numbers. */
export const pathParts = (path: string): (string | number)[] =>
  path
    .split(/[.[\]]+/)
    .filter(Boolean)
    .map((part) => (/^\d+$/.test(part) ? Number(part) : part.replace(/^"|"$/g, '')));
