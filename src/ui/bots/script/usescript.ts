import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { addSteps, duplicateSteps, moveSteps, newStep, removeSteps, usersOf } from '@/core/bots/edit';
import { allSteps, type BotScript, lineNumber, type Scene, type Verb } from '@/core/bots/model';
import { type Clip, pasted } from '@/core/bots/references';
import { newKey } from '../../kit/call';
import { useAround } from './around';
import { heldClip, keepClip } from './clip';

export const focusLine = (id: string): void =>
  void requestAnimationFrame(() => document.getElementById(`line-${id}`)?.focus());
type Adding = { readonly sceneId: string; readonly at: number };

/** A script as it is worked on: what is folded, opened, chosen and being added, and the acts on lines. */
export type Editing = ReturnType<typeof useScript>;
export function useScript(
  chosen: ReadonlySet<string>,
  onChosen: (lines: ReadonlySet<string>) => void,
  onChange: (script: BotScript) => void,
) {
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
    line?.querySelector<HTMLElement>(':is(textarea, [role=combobox], input)')?.focus();
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
      `${ids.length} ${ids.length === 1 ? 'line' : 'lines'} ${cut ? 'cut' : 'copied'}; Ctrl V puts ` +
        `${ids.length === 1 ? 'it' : 'them'} in, here or in another bot.`,
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

  /** Adds a line to the chosen ones, or takes it out. */
  const chooseToo = (lineId: string) => {
    const next = new Set(chosen);
    if (!next.delete(lineId)) next.add(lineId);
    onChosen(next);
    setAnchor(lineId);
  };
  const move = (lineId: string, by: 1 | -1) => onChange(moveSteps(script, about(lineId), by));
  return {
    script,
    view,
    mayChange,
    /** Whether it is one shared scene rather than a bot. */ one,
    chosen,
    onChosen,
    onChange,
    folded,
    toggle,
    opened,
    setOpened,
    adding,
    setAdding,
    pasting,
    setPasting,
    anchor,
    setAnchor,
    insert,
    close,
    copy,
    remove,
    paste,
    putIn,
    duplicate,
    toUser,
    extend,
    chooseToo,
    move,
  };
}
