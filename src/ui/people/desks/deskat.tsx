'use client';

import { clsx } from 'clsx';
import type { ReactNode } from 'react';
import {
  DESK_PANEL_IDS,
  DESK_PANELS,
  DESK_VIEW_IDS,
  DESK_VIEWS,
  type DeskPanel,
  type DeskProfile,
  type Helper,
  helperBar,
  HELPERS,
  type Moment,
  MOMENT_WORDS,
} from '@/core/people/deskprofile';
import type { DeskProfilesView } from '@/services/people/desklayout';
import { Select } from '../../kit/select';

/** What can be put on a Desk at a moment: parts, helpers that work by themselves then, and lists. */
type Piece =
  | { readonly kind: 'panel'; readonly id: DeskPanel }
  | { readonly kind: 'helper'; readonly id: Helper }
  | { readonly kind: 'set'; readonly id: string }
  | { readonly kind: 'view'; readonly id: (typeof DESK_VIEW_IDS)[number] };

const without = <T extends string>(list: readonly T[], item: T): T[] => list.filter((one) => one !== item);
const withOne = <T extends string>(list: readonly T[], item: T): T[] => [...without(list, item), item];

/** The Desk as it is at one moment, small; what stands on it is put there and taken off in its place. */
export function DeskAt({
  moment,
  draft,
  view,
  off,
  onChange,
}: {
  moment: Moment;
  draft: DeskProfile;
  view: DeskProfilesView;
  off: boolean;
  onChange: (draft: DeskProfile) => void;
}) {
  const change = (piece: Piece, on: boolean): DeskProfile => {
    const set = <T extends string>(list: readonly T[], item: T) => (on ? withOne(list, item) : without(list, item));
    switch (piece.kind) {
      case 'panel':
        return { ...draft, panels: { ...draft.panels, [moment]: set(draft.panels[moment], piece.id) } };
      case 'helper':
        return { ...draft, helpers: set(draft.helpers, piece.id) };
      case 'set':
        return { ...draft, stockSetIds: set(draft.stockSetIds, piece.id) };
      case 'view':
        return { ...draft, views: set(draft.views, piece.id) };
    }
  };
  const panels = DESK_PANEL_IDS.filter((p) => draft.panels[moment].includes(p));
  const free: [Piece, string][] = [
    ...DESK_PANEL_IDS.filter(
      (p) => (DESK_PANELS[p].at as readonly string[]).includes(moment) && !panels.includes(p),
    ).map((id): [Piece, string] => [{ kind: 'panel', id }, DESK_PANELS[id].name]),
    ...(moment === 'finishing' && !draft.helpers.includes('summary')
      ? [[{ kind: 'helper', id: 'summary' }, HELPERS.summary.name] as [Piece, string]]
      : []),
    ...(moment === 'talking'
      ? DESK_VIEW_IDS.filter((v) => !draft.views.includes(v)).map((id): [Piece, string] => [
          { kind: 'view', id },
          `List: ${DESK_VIEWS[id].name}`,
        ])
      : []),
  ];
  const helperTile = (helper: Helper) => {
    const bar = helperBar(helper, draft, new Set(view.helpers));
    return (
      <Tile
        name={HELPERS[helper].name}
        says={bar ?? HELPERS[helper].says}
        look={bar ? 'border-dashed border-brass text-brass-ink' : 'border-tide bg-tide-wash'}
        moment={moment}
        off={off}
        onOff={() => onChange(change({ kind: 'helper', id: helper }, false))}
      />
    );
  };
  return (
    <section
      aria-label={`The Desk ${MOMENT_WORDS[moment]}`}
      className="flex flex-col gap-2 rounded-panel border border-rule bg-paper p-2"
    >
      <h3 className="text-small font-semibold">{MOMENT_WORDS[moment].replace(/^./, (c) => c.toUpperCase())}</h3>
      <div className="flex min-h-56 gap-1.5">
        <div className="flex w-[38%] flex-col gap-1.5">
          <Sketch moment={moment} />
          {draft.views.map((v) => (
            <Tile
              key={v}
              name={DESK_VIEWS[v].name}
              says="list"
              look="border-rule bg-sheet"
              moment={moment}
              off={off || moment !== 'talking'}
              onOff={() => onChange(change({ kind: 'view', id: v }, false))}
            />
          ))}
        </div>
        <div className="flex min-w-0 flex-1 flex-col gap-1.5">
          {panels.map((p) => (
            <Tile
              key={p}
              name={DESK_PANELS[p].name}
              says={DESK_PANELS[p].says}
              look="border-rule bg-sheet"
              moment={moment}
              off={off}
              onOff={() => onChange(change({ kind: 'panel', id: p }, false))}
            >
              {p === 'replies' && (
                <div className="mt-1 flex flex-col gap-1">
                  {view.sets
                    .filter((s) => draft.stockSetIds.includes(s.id))
                    .map((s) => (
                      <Tile
                        key={s.id}
                        name={s.name}
                        says={`${s.replies.length} ${s.replies.length === 1 ? 'reply' : 'replies'}`}
                        look="border-rule bg-sunk"
                        moment={moment}
                        off={off}
                        onOff={() => onChange(change({ kind: 'set', id: s.id }, false))}
                      />
                    ))}
                  {draft.helpers.includes('suggest') && helperTile('suggest')}
                  {!off && (
                    <Put
                      label="Put into the stock replies"
                      pieces={[
                        ...view.sets
                          .filter((s) => !draft.stockSetIds.includes(s.id))
                          .map((s): [Piece, string] => [{ kind: 'set', id: s.id }, s.name]),
                        ...(draft.helpers.includes('suggest')
                          ? []
                          : [[{ kind: 'helper', id: 'suggest' }, HELPERS.suggest.name] as [Piece, string]]),
                      ]}
                      onPut={(piece) => onChange(change(piece, true))}
                    />
                  )}
                </div>
              )}
            </Tile>
          ))}
          {/* A helper whose part is not there works nowhere, and can still be taken off. */}
          {moment === 'talking' &&
            draft.helpers.includes('suggest') &&
            !panels.includes('replies') &&
            helperTile('suggest')}
          {moment === 'finishing' && draft.helpers.includes('summary') && helperTile('summary')}
          {!off && free.length > 0 && (
            <Put
              label={`Put on the Desk ${MOMENT_WORDS[moment]}`}
              pieces={free}
              onPut={(piece) => onChange(change(piece, true))}
            />
          )}
        </div>
      </div>
    </section>
  );
}

/** What is in the middle of the Desk then, in outline. */
function Sketch({ moment }: { moment: Moment }) {
  return (
    <div aria-hidden className="flex flex-1 flex-col gap-1 rounded-control border border-rule bg-sheet p-1.5">
      {moment === 'offered' ? (
        <>
          <span className="h-2 w-2/3 rounded bg-sunk" />
          <span className="mt-auto h-4 w-1/2 rounded bg-plum-wash" />
        </>
      ) : (
        <>
          <span className="h-2 w-3/4 rounded bg-sunk" />
          <span className="ml-auto h-2 w-2/3 rounded bg-plum-wash" />
          <span className="h-2 w-1/2 rounded bg-sunk" />
          {moment === 'talking' ? (
            <span className="mt-auto h-6 rounded border border-rule-strong" />
          ) : (
            <span className="mt-auto flex gap-1">
              <span className="h-3.5 flex-1 rounded bg-moss-wash" />
              <span className="h-3.5 flex-1 rounded bg-moss-wash" />
            </span>
          )}
        </>
      )}
    </div>
  );
}

function Tile({
  name,
  says,
  look,
  moment,
  off,
  onOff,
  children,
}: {
  name: string;
  says: string;
  look: string;
  moment: Moment;
  off: boolean;
  onOff: () => void;
  children?: ReactNode;
}) {
  return (
    <div className={clsx('rounded-control border px-1.5 py-1 text-tiny', look)}>
      <p className="flex items-start gap-1">
        <b className="min-w-0 flex-1 font-semibold text-ink">{name}</b>
        {!off && (
          <button
            type="button"
            aria-label={`Take ${name} off, ${MOMENT_WORDS[moment]}`}
            className="px-0.5 leading-none text-ink-2 hover:text-ink"
            onClick={onOff}
          >
            ×
          </button>
        )}
      </p>
      <p className="text-ink-2">{says}</p>
      {children}
    </div>
  );
}

function Put({
  label,
  pieces,
  onPut,
}: {
  label: string;
  pieces: readonly (readonly [Piece, string])[];
  onPut: (piece: Piece) => void;
}) {
  if (pieces.length === 0) return null;
  return (
    <Select
      compact
      aria-label={label}
      value=""
      onChange={(chosen) => {
        const piece = pieces.find(([p]) => `${p.kind} ${p.id}` === chosen)?.[0];
        if (piece) onPut(piece);
      }}
    >
      <option value="">put here…</option>
      {pieces.map(([p, name]) => (
        <option key={`${p.kind} ${p.id}`} value={`${p.kind} ${p.id}`}>
          {name}
        </option>
      ))}
    </Select>
  );
}
