'use client';

import { useEffect, useState } from 'react';
import { mended } from '@/core/bots/checks';
import type { BotFault } from '@/core/bots/faults';
import { type BotScript, NO_WORDING, QUIET } from '@/core/bots/model';
import { VALUE_NAME } from '@/core/bots/value';
import { CHANNELS } from '@/core/channels';
import { languageName } from '@/core/localised';
import type { Surroundings } from '@/services/bots/botviews';
import type { SharedView } from '@/services/bots/sharedscenes';
import { Button } from '../../kit/button';
import { call, setting } from '../../kit/call';
import { Check, Input } from '../../kit/field';
import { Panel, Pill } from '../../kit/panel';
import { AroundScript } from '../script/around';
import { savedWords, useAutosave } from '../script/autosave';
import { ScriptView } from '../script/scriptview';
import { BothVersions } from '../../drafts/bothversions';
import { namesInScript } from '../script/namesinscript';
import { TryIt } from '../script/tryit';
import { focusLine } from '../script/usescript';

type Scene = SharedView['scenes'][number];

/** One shared scene, kept as it is written, with Try it beside it. */
export function SharedEditor({
  scene,
  view,
  things,
  onSaved,
  onRemove,
}: {
  scene: Scene;
  view: SharedView;
  things: Surroundings;
  onSaved: () => void;
  onRemove: () => void;
}) {
  const [faults, setFaults] = useState<readonly BotFault[]>(scene.faults);
  const { value, change, undo, redo, ...saving } = useAutosave(
    { name: scene.name, inputs: scene.inputs, steps: scene.steps },
    scene.revision,
    async (written, revision) => {
      const done = await setting<{ revision: number; faults: BotFault[] }>('save-shared-scene', {
        id: scene.id,
        revision,
        ...written,
      });
      setFaults(done.faults);
      onSaved();
      return done.revision;
    },
    async () => {
      const theirs = (await call<SharedView>('/api/read/shared-scenes')).scenes.find((s) => s.id === scene.id);
      if (!theirs) throw new Error('The scene is not there any more.');
      const { name, inputs, steps, revision } = theirs;
      return { value: { name, inputs, steps }, revision };
    },
  );
  const [languages, setLanguages] = useState<readonly string[]>(view.languages.slice(0, 2));
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [running, setRunning] = useState<string | null>(null);
  const [given, setGiven] = useState<Readonly<Record<string, string>>>({});
  // A new one is named first.
  const [named, setNamed] = useState(false);
  useEffect(() => setNamed(true), []);
  const script: BotScript = {
    shownName: value.name.trim().slice(0, 40) || 'A scene',
    picture: '',
    languages,
    fallbackQueueId: things.queues[0]?.id ?? '',
    fallbackWording: NO_WORDING,
    afterSceneId: null,
    quiet: QUIET,
    scenes: [{ id: scene.id, name: value.name.trim() || 'A scene', steps: value.steps }],
  };
  const [first] = faults;
  return (
    <AroundScript value={{ script, view: things, channels: CHANNELS, mayChange: view.mayChange, inputs: value.inputs }}>
      <Panel label="Scene" className="flex min-h-0 flex-col overflow-hidden">
        <div className="flex flex-wrap items-center gap-2 border-b border-rule px-4 py-2">
          <Input
            aria-label="Name of the shared scene"
            disabled={!view.mayChange}
            className="!w-60 font-display font-semibold"
            maxLength={60}
            value={value.name}
            autoFocus={!named && scene.steps.length === 0}
            onChange={(e) => change({ ...value, name: e.target.value }, false)}
          />
          <span className="text-small text-ink-2">takes</span>
          <Input
            aria-label="Inputs, with commas"
            disabled={!view.mayChange}
            className="!w-48 text-small"
            placeholder="no inputs"
            defaultValue={value.inputs.join(', ')}
            onBlur={(e) => {
              const inputs = [
                ...new Set(
                  e.target.value
                    .split(',')
                    .map((x) => x.trim())
                    .filter((x) => VALUE_NAME.test(x)),
                ),
              ];
              if (inputs.join() !== value.inputs.join()) change({ ...value, inputs });
            }}
          />
          <span className="flex gap-2">
            {view.languages.map((l) => (
              <Check
                key={l}
                label={languageName(l)}
                checked={languages.includes(l)}
                onChange={(e) => {
                  const next = view.languages.filter((x) => (x === l ? e.target.checked : languages.includes(x)));
                  if (next.length > 0) setLanguages(next);
                }}
              />
            ))}
          </span>
          <span className="ml-auto flex items-center gap-1.5">
            <span role="status" className="text-small text-ink-3">
              {savedWords(saving)}
            </span>
            {view.mayChange && (
              <>
                <Button small kind="quiet" disabled={!undo} onClick={() => undo?.()}>
                  Undo
                </Button>
                <Button small kind="quiet" disabled={!redo} onClick={() => redo?.()}>
                  Redo
                </Button>
                <Button small kind="danger" onClick={onRemove}>
                  Remove
                </Button>
              </>
            )}
          </span>
        </div>
        {saving.clash && (
          <BothVersions
            clashes={saving.clash.clashes}
            nameOf={namesInScript(script, things)}
            onTake={saving.clash.take}
          />
        )}
        <p className="px-4 pt-1.5 text-tiny text-ink-2">
          Kept as it is written; bots use it from when they are published next.
        </p>
        <div className="min-h-0 flex-1 overflow-y-auto" tabIndex={0} role="region" aria-label="Lines">
          <ScriptView
            faults={faults}
            traffic={null}
            running={running}
            chosen={chosen}
            onChosen={setChosen}
            onChange={(next) => change({ ...value, steps: next.scenes[0]?.steps ?? [] })}
          />
        </div>
        {first && (
          <div role="status" className="flex items-center gap-2 border-t border-rule px-4 py-2 text-small">
            <Pill tone={first.weight === 'stops' ? 'bad' : 'warn'}>{faults.length} found</Pill>
            <span className="min-w-0 flex-1">{first.sentence}</span>
            {first.fix && view.mayChange && (
              <Button
                small
                onClick={() => {
                  if (first.fix) change({ ...value, steps: mended(script, first.fix).scenes[0]?.steps ?? [] });
                }}
              >
                {first.fix.label}
              </Button>
            )}
            {first.lineId && (
              <Button small onClick={() => focusLine(first.lineId ?? '')}>
                Show
              </Button>
            )}
          </div>
        )}
      </Panel>
      <div className="flex min-h-0 flex-col gap-2 [&>:last-child]:flex-1">
        {value.inputs.length > 0 && (
          <Panel className="p-3" label="Given to it">
            <h2 className="text-panel">Given to it</h2>
            <div className="mt-1 grid gap-1.5">
              {value.inputs.map((name) => (
                <label key={name} className="flex items-center gap-2 text-small">
                  <span className="w-28 truncate text-ink-2">{name}</span>
                  <Input
                    className="!py-0.5"
                    maxLength={200}
                    value={given[name] ?? ''}
                    onChange={(e) => setGiven({ ...given, [name]: e.target.value })}
                  />
                </label>
              ))}
            </div>
          </Panel>
        )}
        <TryIt key={scene.id} botId={null} values={given} onLine={setRunning} />
      </div>
    </AroundScript>
  );
}
