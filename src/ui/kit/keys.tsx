import { Fragment } from 'react';

export const Key = ({ children }: { children: string }) => (
  <kbd className="rounded border border-rule-strong bg-sheet px-1.5 font-body text-tiny text-ink-2">{children}</kbd>
);

/** Keys of what is on the page, in one line: those that belong together with one blank between, then what they do. */
export const KeyHints = ({ hints }: { hints: readonly (readonly [keys: string, does: string])[] }) => (
  <span className="text-small text-ink-2">
    {hints.map(([keys, does], i) => (
      <Fragment key={keys}>
        {i > 0 && ' '}
        {keys.split(' ').map((key) => (
          <Fragment key={key}>
            <Key>{key}</Key>{' '}
          </Fragment>
        ))}
        {does}
      </Fragment>
    ))}
  </span>
);
