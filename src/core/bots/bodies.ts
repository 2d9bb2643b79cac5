import { filled, type Value, type Values, valueIn } from './value';

/** The body of a request, built of parts: what is nested stands within an object or a list. */
export type BodyPart =
  | { readonly is: 'object'; readonly fields: readonly { readonly name: string; readonly value: BodyPart }[] }
  | { readonly is: 'list'; readonly items: readonly BodyPart[] }
  /** An input, of the type that it has. One that is not given is left out of its object or list. */
  | { readonly is: 'input'; readonly name: string }
  /** Words, which may show inputs as `{name}`. */
  | { readonly is: 'text'; readonly text: string }
  | { readonly is: 'number'; readonly number: number }
  | { readonly is: 'yes-no'; readonly yes: boolean };

export const BODY_KINDS = ['object', 'list', 'input', 'text', 'number', 'yes-no'] as const;
/** How deep parts may stand within each other, and how many there may be. */
export const BODY_DEPTH = 8;
export const BODY_PARTS = 200;

type Json = Value | readonly Json[] | { readonly [name: string]: Json };

const isGiven = (value: Value | undefined): value is Value => value !== undefined && value !== '';

/** The JSON that a body is with some inputs; undefined for an input that is not given. */
export function bodyOf(part: BodyPart, inputs: Values): Json | undefined {
  switch (part.is) {
    case 'object':
      return Object.fromEntries(
        part.fields.flatMap(({ name, value }) => {
          const made = bodyOf(value, inputs);
          return made === undefined ? [] : [[name, made] as const];
        }),
      );
    case 'list':
      return part.items.flatMap((item) => {
        const made = bodyOf(item, inputs);
        return made === undefined ? [] : [made];
      });
    case 'input': {
      const value = valueIn(inputs, part.name);
      return isGiven(value) ? value : undefined;
    }
    case 'text':
      return filled(part.text, inputs);
    case 'number':
      return part.number;
    case 'yes-no':
      return part.yes;
  }
}

/** How deep a body goes, and of how many parts it is. */
export function sizeOf(part: BodyPart): { readonly depth: number; readonly parts: number } {
  const within = part.is === 'object' ? part.fields.map((f) => f.value) : part.is === 'list' ? part.items : [];
  const sizes = within.map(sizeOf);
  return {
    depth: 1 + Math.max(0, ...sizes.map((s) => s.depth)),
    parts: 1 + sizes.reduce((n, s) => n + s.parts, 0),
  };
}

/** The inputs that a body takes, each once. */
export function inputsIn(part: BodyPart): string[] {
  const found =
    part.is === 'object'
      ? part.fields.flatMap((f) => inputsIn(f.value))
      : part.is === 'list'
        ? part.items.flatMap(inputsIn)
        : part.is === 'input'
          ? [part.name]
          : part.is === 'text'
            ? [...part.text.matchAll(/\{([^{}]+)\}/g)].map(([, name = '']) => name)
            : [];
  return [...new Set(found)];
}
