'use client';

import { clsx } from 'clsx';
import { type KeyboardEvent, type MouseEvent, useEffect, useMemo, useState } from 'react';
import { toast } from 'sonner';
import {
  addScene,
  addSteps,
  duplicateSteps,
  moveScene,
  moveSteps,
  newStep,
  removeScene,
  removeSteps,
  renameScene,
  replaceStep,
  usersOf,
} from '@/core/bots/edit';
import type { BotFault } from '@/core/bots/faults';
import { allSteps, type BotScript, lineNumber, type Scene, type Step, type Verb, VERB_NAMES } from '@/core/bots/model';
import { type Clip, pasted } from '@/core/bots/references';
import { sceneTraffic, type Traffic } from '@/core/bots/traffic';
import { Button } from '../../kit/button';
import { newKey } from '../../kit/call';
import { asCount } from '../../kit/figures';
import { useAround } from './around';
import { heldClip, keepClip } from './clip';
import { Line } from './line';
import { LineEditor } from './lineeditor';
import { PasteDialog } from './pastedialog';
import { VerbBox } from './verbbox';

export const focusLine = (id: string): void =>
  void requestAnimationFrame(() => document.getElementById(`line-${id}`)?.focus());
type Adding = { readonly sceneId: string; readonly at: number };

/** The whole script as one document: scenes fold, lines are numbered, each with its verb, wording and cues. */
export function ScriptView({
  faults,
  traffic,
  running,
  chosen,
  onChosen,
  onChange,
}: {
  faults: readonly BotFault[];
  traffic: Traffic | null;
  running: string | null;
  chosen: ReadonlySet<string>;
  onChosen: (lines: ReadonlySet<string>) => void;
  onChange: (script: BotScript) => void;
}) {
  const { script, view, mayChange, inputs } = useAround();
  const one = inputs !== undefined;
  const [folded, setFolded] = useState<ReadonlySet<string>>(
    () => new Set(script.scenes.length > 4 ? script.scenes.slice(2).map((s) => s.id) : []),
  );
  const [opened, setOpened] = useState<string | null>(null);
  const [adding, setAdding] = useState<Adding | null>(null);
  const [pasting, setPasting] = useState<{ clip: Clip; sceneId: string; at: number } | null>(null);
  const [anchor, setAnchor] = useState<string | null>(null);
  const sceneOf = (lineId: string): Scene | undefined =>
    script.scenes.find((s) => s.steps.some((x) => x.id === lineId));
  // A line that is chosen elsewhere (in the map, in the checks) is shown.
  useEffect(() => {
    if (chosen.size === 1) {
      const scene = sceneOf([...chosen][0] ?? '');
      if (scene && folded.has(scene.id)) setFolded(new Set([...folded].filter((id) => id !== scene.id)));
    }
  }, [chosen]); // eslint-disable-line react-hooks/exhaustive-deps -- only when another line is chosen
  const toggle = (id: string) =>
    setFolded((was) => {
      const next = new Set(was);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  const defaults = () => ({
    queueId: script.fallbackQueueId,
    connectorId: view.connectors.find((c) => c.does === 'look-up')?.id ?? 'none',
    doId: view.connectors.find((c) => c.does === 'do')?.id ?? 'none',
    sharedId: view.shared[0]?.id ?? 'none',
  });
  const insert = (verb: Verb, { sceneId, at }: Adding) => {
    const id = newKey();
    onChange(addSteps(script, sceneId, [newStep(verb, id, defaults())], at));
    setAdding(null);
    setOpened(id);
    onChosen(new Set([id]));
  };
  // What is opened is written in at once, with the keyboard as with the mouse.
  useEffect(() => {
    const line = opened === null ? null : document.getElementById(`line-${opened}`);
    line?.querySelector<HTMLElement>(':is(textarea, select, input)')?.focus();
    line?.scrollIntoView({ block: 'nearest' });
  }, [opened]);
  const close = (lineId: string) => {
    setOpened(null);
    focusLine(lineId);
  };
  /** The lines an act is about: those chosen, or the one it was pressed on. */
  const about = (lineId: string): string[] =>
    chosen.has(lineId)
      ? allSteps(script)
          .filter((s) => chosen.has(s.id))
          .map((s) => s.id)
      : [lineId];
  const copy = (lineId: string, cut: boolean) => {
    const ids = about(lineId);
    keepClip(
      view,
      script,
      allSteps(script).filter((s) => ids.includes(s.id)),
    );
    if (cut) remove(lineId);
    toast.message(
      `${ids.length} ${ids.length === 1 ? 'line' : 'lines'} ${cut ? 'cut' : 'copied'}; Ctrl V puts ${ids.length === 1 ? 'it' : 'them'} in, here or in another bot.`,
    );
  };
  const remove = (lineId: string) => {
    const ids = about(lineId);
    const all = allSteps(script);
    const stays =
      all.slice(all.findIndex((s) => s.id === ids.at(-1)) + 1).find((s) => !ids.includes(s.id)) ??
      all.findLast((s) => !ids.includes(s.id));
    onChange(removeSteps(script, ids));
    setOpened(null);
    onChosen(new Set());
    if (stays) focusLine(stays.id);
  };
  const paste = (sceneId: string, at: number) => {
    const clip = heldClip();
    if (clip) setPasting({ clip, sceneId, at });
    else toast.message('Nothing was copied yet.');
  };
  const putIn = (decided: Readonly<Record<string, string>>) => {
    if (!pasting) return;
    const steps = pasted(pasting.clip, newKey, decided);
    onChange(addSteps(script, pasting.sceneId, steps, pasting.at));
    setPasting(null);
    onChosen(new Set(steps.map((s) => s.id)));
    if (steps[0]) focusLine(steps[0].id);
  };
  const duplicate = (lineId: string) => {
    const { script: next, copies } = duplicateSteps(script, about(lineId), newKey);
    onChange(next);
    onChosen(new Set(copies.map((s) => s.id)));
    if (copies[0]) focusLine(copies[0].id);
  };
  const toUser = (lineId: string) => {
    const users = usersOf(script, lineId);
    if (users.length === 0) return void toast.message('Nothing leads to this line.');
    const user = users[0] ?? lineId;
    toast.message(
      `${lineNumber(script, lineId) ?? ''} is reached from ${users.map((u) => lineNumber(script, u)).join(', ')}.`,
    );
    onChosen(new Set([user]));
    focusLine(user);
  };
  /** From the anchor to a line, as they stand. */
  const extend = (from: string, to: string) => {
    const ids = allSteps(script).map((s) => s.id);
    const [a, b] = [ids.indexOf(from), ids.indexOf(to)];
    onChosen(new Set(ids.slice(Math.min(a, b), Math.max(a, b) + 1)));
  };

  /** What stands beside a scene's name: its lines, what leads to it, and how customers went through it in the last week. */
  const sceneAbout = (scene: Scene, first: boolean): string => {
    const { from = [], came = 0, left = 0 } = met.get(scene.id) ?? {};
    const lines = from.map((id) => lineNumber(script, id) ?? '');
    return [
      `${scene.steps.length} ${scene.steps.length === 1 ? 'line' : 'lines'}`,
      first ? 'everyone starts here' : '',
      lines.length > 0
        ? `from ${lines.slice(0, 3).join(', ')}${lines.length > 3 ? ` and ${lines.length - 3} more` : ''}`
        : '',
      script.afterSceneId === scene.id ? 'after the contact' : '',
      came > 0
        ? `${asCount(came)} last week${left / came >= 0.005 ? `, ${Math.round((100 * left) / came)}% left here` : ''}`
        : '',
    ]
      .filter(Boolean)
      .join(' · ');
  };

  const press = (e: KeyboardEvent<HTMLElement>, step: Step, scene: Scene, at: number) => {
    if (e.target !== e.currentTarget) {
      if (e.key === 'Escape' && opened === step.id) {
        e.stopPropagation();
        close(step.id);
      }
      return;
    }
    const done = (act: () => void) => {
      e.preventDefault();
      act();
    };
    const ctrl = e.ctrlKey || e.metaKey;
    const key = e.key.toLowerCase();
    if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
      const by = e.key === 'ArrowDown' ? 1 : -1;
      if (e.altKey)
        return done(() => {
          if (mayChange) {
            onChange(moveSteps(script, about(step.id), by));
            focusLine(step.id);
          }
        });
      const all = [...document.querySelectorAll<HTMLElement>('[id^="line-"]')];
      const next = all[all.indexOf(e.currentTarget) + by];
      return done(() => {
        next?.focus();
        const id = next?.id.slice('line-'.length);
        if (id && e.shiftKey) {
          const from = anchor ?? step.id;
          setAnchor(from);
          extend(from, id);
        } else if (id) {
          setAnchor(id);
          onChosen(new Set([id]));
        }
      });
    }
    if (e.key === 'ArrowLeft')
      return done(() => {
        toggle(scene.id);
        requestAnimationFrame(() => document.getElementById(`fold-${scene.id}`)?.focus());
      });
    if (ctrl && key === 'c') return done(() => copy(step.id, false));
    if (ctrl && key === 'a') return done(() => onChosen(new Set(scene.steps.map((s) => s.id))));
    if (!ctrl && !e.altKey && key === 'u') return done(() => toUser(step.id));
    if (e.key === 'Escape') return done(() => onChosen(new Set()));
    if (!mayChange) return;
    if (e.key === 'Enter') return done(() => setOpened(step.id));
    if (e.key === ' ')
      return done(() => {
        const next = new Set(chosen);
        if (!next.delete(step.id)) next.add(step.id);
        onChosen(next);
        setAnchor(step.id);
      });
    if (ctrl && key === 'x') return done(() => copy(step.id, true));
    if (ctrl && key === 'v') return done(() => paste(scene.id, at + 1));
    if (ctrl && key === 'd') return done(() => duplicate(step.id));
    if (e.key === 'Delete' || e.key === 'Backspace') return done(() => remove(step.id));
    if (!ctrl && !e.altKey && key === 'n') return done(() => setAdding({ sceneId: scene.id, at: at + 1 }));
  };
  const click = (e: MouseEvent<HTMLElement>, step: Step) => {
    if (opened === step.id || (e.target instanceof HTMLElement && e.target.closest('button'))) return;
    if (e.shiftKey) return extend(anchor ?? step.id, step.id);
    setAnchor(step.id);
    if (e.ctrlKey || e.metaKey) {
      const next = new Set(chosen);
      if (!next.delete(step.id)) next.add(step.id);
      return onChosen(next);
    }
    onChosen(new Set([step.id]));
    if (mayChange && chosen.has(step.id)) setOpened(step.id);
  };

  const met = useMemo(() => sceneTraffic(script, traffic), [script, traffic]);
  const many = chosen.size > 1 ? [...chosen][0] : undefined;
  return (
    <>
      {many !== undefined && (
        <div
          role="toolbar"
          aria-label="Chosen lines"
          className="sticky top-0 z-10 flex items-center gap-1.5 border-b border-rule bg-chosen px-4 py-1 text-small"
        >
          <b>{chosen.size} lines</b>
          <Button small onClick={() => copy(many, false)}>
            Copy
          </Button>
          {mayChange && (
            <>
              <Button small onClick={() => copy(many, true)}>
                Cut
              </Button>
              <Button small onClick={() => duplicate(many)}>
                Duplicate
              </Button>
              <Button small onClick={() => onChange(moveSteps(script, about(many), -1))}>
                Move up
              </Button>
              <Button small onClick={() => onChange(moveSteps(script, about(many), 1))}>
                Move down
              </Button>
              <Button small kind="danger" onClick={() => remove(many)}>
                Remove
              </Button>
            </>
          )}
          <Button small kind="quiet" className="ml-auto" onClick={() => onChosen(new Set())}>
            Leave them
          </Button>
        </div>
      )}
      {script.scenes.map((scene, s) => {
        const isFolded = folded.has(scene.id) && !scene.steps.some((x) => x.id === running);
        const box = (at: number) =>
          adding?.sceneId === scene.id &&
          adding.at === at && (
            <VerbBox
              label={`Verb of the new line in ${scene.name}`}
              onVerb={(verb) => insert(verb, adding)}
              onLeave={() => setAdding(null)}
            />
          );
        const stops = faults.filter((f) => f.weight === 'stops' && scene.steps.some((x) => x.id === f.lineId)).length;
        return (
          <section key={scene.id} aria-label={`Scene ${s + 1}, ${scene.name}`}>
            <div className="sticky top-0 z-[5] flex items-center gap-2 border-b border-rule bg-sunk px-4 py-1.5">
              <span className="flex size-6 shrink-0 items-center justify-center rounded-full bg-plum text-small font-bold text-on-plum">
                {s + 1}
              </span>
              {mayChange && !one ? (
                <input
                  aria-label={`Name of scene ${s + 1}`}
                  value={scene.name}
                  maxLength={60}
                  size={Math.max(6, scene.name.length)}
                  onChange={(e) => onChange(renameScene(script, scene.id, e.target.value))}
                  className="min-w-0 rounded-control bg-transparent font-display text-panel font-semibold"
                />
              ) : (
                <h2 className="text-panel">{scene.name}</h2>
              )}
              <span className="flex-1 truncate text-small text-ink-2">{sceneAbout(scene, s === 0 && !one)}</span>
              {stops > 0 && isFolded && <span className="text-small font-semibold text-clay">{stops} to mend</span>}
              {mayChange && !isFolded && !one && (
                <>
                  <Button
                    small
                    kind="quiet"
                    disabled={s === 0}
                    aria-label={`Move ${scene.name} up`}
                    onClick={() => onChange(moveScene(script, scene.id, -1))}
                  >
                    ↑
                  </Button>
                  <Button
                    small
                    kind="quiet"
                    disabled={s === script.scenes.length - 1}
                    aria-label={`Move ${scene.name} down`}
                    onClick={() => onChange(moveScene(script, scene.id, 1))}
                  >
                    ↓
                  </Button>
                </>
              )}
              {mayChange && scene.steps.length === 0 && script.scenes.length > 1 && (
                <Button small kind="quiet" onClick={() => onChange(removeScene(script, scene.id))}>
                  Remove
                </Button>
              )}
              <Button
                small
                kind="quiet"
                id={`fold-${scene.id}`}
                aria-expanded={!isFolded}
                aria-label={`${isFolded ? 'Unfold' : 'Fold'} ${scene.name}`}
                onClick={() => toggle(scene.id)}
              >
                {isFolded ? 'unfold' : 'fold'}
              </Button>
            </div>
            {!isFolded && (
              <>
                {box(0)}
                {scene.steps.map((step, i) => (
                  <div key={step.id}>
                    <div
                      id={`line-${step.id}`}
                      tabIndex={0}
                      role="group"
                      aria-label={`Line ${s + 1}.${i + 1}, ${VERB_NAMES[step.verb]}${chosen.has(step.id) && chosen.size > 1 ? ', chosen' : ''}`}
                      className={clsx(
                        'grid grid-cols-[44px_132px_minmax(0,1fr)] border-b border-rule px-4 py-1.5',
                        running === step.id
                          ? 'bg-chosen'
                          : opened === step.id
                            ? 'bg-sheet'
                            : chosen.has(step.id)
                              ? 'bg-plum-wash'
                              : faults.some((f) => f.lineId === step.id && f.weight === 'stops')
                                ? 'bg-clay-wash'
                                : faults.some((f) => f.lineId === step.id)
                                  ? 'bg-brass-wash/40'
                                  : 'hover:bg-sunk/40',
                      )}
                      onClick={(e) => click(e, step)}
                      onKeyDown={(e) => press(e, step, scene, i)}
                    >
                      <span className="pt-px text-small text-ink-2">
                        {s + 1}.{i + 1}
                      </span>
                      <span className="font-display font-semibold text-plum">{VERB_NAMES[step.verb]}</span>
                      {opened === step.id && mayChange ? (
                        <div className="min-w-0">
                          <LineEditor step={step} onChange={(next) => onChange(replaceStep(script, next))} />
                          <div className="mt-3 flex flex-wrap gap-2">
                            <Button small kind="primary" onClick={() => close(step.id)}>
                              Done
                            </Button>
                            <Button
                              small
                              onClick={() => {
                                setOpened(null);
                                setAdding({ sceneId: scene.id, at: i + 1 });
                              }}
                            >
                              New line below
                            </Button>
                            <Button small disabled={i === 0} onClick={() => onChange(moveSteps(script, [step.id], -1))}>
                              Move up
                            </Button>
                            <Button
                              small
                              disabled={i === scene.steps.length - 1}
                              onClick={() => onChange(moveSteps(script, [step.id], 1))}
                            >
                              Move down
                            </Button>
                            <Button small onClick={() => duplicate(step.id)}>
                              Duplicate
                            </Button>
                            <Button small onClick={() => toUser(step.id)}>
                              Who leads here
                            </Button>
                            <Button small kind="danger" onClick={() => remove(step.id)}>
                              Remove the line
                            </Button>
                          </div>
                        </div>
                      ) : (
                        <Line step={step} />
                      )}
                    </div>
                    {box(i + 1)}
                  </div>
                ))}
                {scene.steps.length === 0 && (
                  <p className="px-4 py-2 text-small text-ink-3">No line in this scene yet.</p>
                )}
                {mayChange && !(adding?.sceneId === scene.id) && (
                  <div className="flex items-center gap-1 border-b border-rule px-4 py-0.5 pl-[60px]">
                    <Button
                      small
                      kind="quiet"
                      onClick={() => setAdding({ sceneId: scene.id, at: scene.steps.length })}
                      aria-label={`New line in ${scene.name}`}
                    >
                      New line
                    </Button>
                    <Button
                      small
                      kind="quiet"
                      onClick={() => paste(scene.id, scene.steps.length)}
                      aria-label={`Put copied lines into ${scene.name}`}
                    >
                      Put in copied lines
                    </Button>
                  </div>
                )}
              </>
            )}
          </section>
        );
      })}
      {mayChange && (
        <div className="flex items-center gap-3 p-3 pl-4">
          {!one && <Button onClick={() => onChange(addScene(script, newKey(), 'New scene'))}>Add a scene</Button>}
          <span className="text-tiny text-ink-3">
            On a line: Enter edits, N new below, Alt ↑↓ moves, Shift ↑↓ chooses, Ctrl C X V D, Del, U who leads here, ←
            folds
          </span>
        </div>
      )}
      {pasting && (
        <PasteDialog clip={pasting.clip} view={view} script={script} onPaste={putIn} onClose={() => setPasting(null)} />
      )}
    </>
  );
}
