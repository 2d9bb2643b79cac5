'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { mended } from '@/core/bots/checks';
import { type BotScript, NO_WORDING, QUIET } from '@/core/bots/model';
import { VALUE_NAME } from '@/core/bots/value';
import { CHANNELS } from '@/core/channels';
import { languageName } from '@/core/localised';
import type { Surroundings } from '@/services/bots/botviews';
import type { SharedView } from '@/services/bots/sharedscenes';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { Check, Input } from '../../kit/field';
import { ListPanel, TwoLines } from '../../kit/list';
import { useLive } from '../../kit/live';
import { Empty, Panel, Pill } from '../../kit/panel';
import { useSaving } from '../../kit/saving';
import { StopNav } from '../../lane/stopnav';
import { AroundScript } from '../script/around';
import { ScriptView } from '../script/scriptview';
import { focusLine } from '../script/usescript';

type Scene = SharedView['scenes'][number];
type Draft = {
  readonly id: string | null;
  readonly revision: number;
  readonly name: string;
  readonly inputs: readonly string[];
  readonly steps: Scene['steps'];
};

/** Scenes kept once and used by several bots. Bots that are live keep the scene they were published with. */
export function SharedPage({ initial, around }: { initial: SharedView; around: Surroundings }) {
  const { data, refetch } = useLive<SharedView>('/api/read/shared-scenes', ['settings.changed'], initial);
  const { data: now } = useLive<Surroundings>('/api/read/bot-surroundings', ['settings.changed'], around);
  const view = data ?? initial;
  const things = now ?? around;
  const draftOf = ({ id, revision, name, inputs, steps }: Scene): Draft => ({ id, revision, name, inputs, steps });
  const [draft, setDraft] = useState<Draft | null>(view.scenes[0] ? draftOf(view.scenes[0]) : null);
  const [past, setPast] = useState<readonly Draft[]>([]);
  const [languages, setLanguages] = useState<readonly string[]>(view.languages.slice(0, 2));
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const kept = view.scenes.find((s) => s.id === draft?.id);
  const change = (next: Draft) => {
    if (draft) setPast([...past.slice(-99), draft]);
    setDraft(next);
  };
  const open = (scene: Scene) => {
    setDraft(draftOf(scene));
    setPast([]);
    setChosen(new Set());
  };
  const saving = useSaving<{ id: string; revision: number }>('save-shared-scene', {
    latest: () => refetch().then((v) => v.data?.scenes.find((s) => s.id === draft?.id)),
    nameOf: (id) => id,
    onTheirs: () => {
      if (kept) open(kept);
    },
    onSaved: (a) => {
      if (draft) setDraft({ ...draft, ...a });
    },
  });
  const save = async () => {
    if (!draft) return;
    const done = await saving.save(draft, `${draft.name} is kept. Bots use it from when they are published next.`);
    if (done) {
      setDraft({ ...draft, ...done });
      setPast([]);
      void refetch();
    }
  };
  const remove = async (id: string) => {
    try {
      await setting('remove-bot-part', { kind: 'shared-scene', id });
      toast.success('The scene is gone.');
      setDraft(null);
      void refetch();
    } catch (error) {
      toast.error(sentence(error));
    }
  };
  const script: BotScript | null = draft && {
    shownName: '',
    picture: '',
    languages,
    fallbackQueueId: things.queues[0]?.id ?? '',
    fallbackWording: NO_WORDING,
    afterSceneId: null,
    quiet: QUIET,
    scenes: [{ id: draft.id ?? 'new', name: draft.name || 'New shared scene', steps: draft.steps }],
  };
  const faults = past.length === 0 ? (kept?.faults ?? []) : [];
  return (
    <>
      <StopNav stop="Bots" />
      <main className="grid h-[calc(100vh-100px)] min-h-[480px] grid-cols-[280px_minmax(0,1fr)] gap-3 p-4">
        <ListPanel
          title="Shared scenes"
          none="What several bots say or ask in the same way stands here once."
          tools={
            view.mayChange && (
              <Button
                small
                onClick={() => {
                  setDraft({ id: null, revision: 0, name: '', inputs: [], steps: [] });
                  setPast([]);
                }}
              >
                New scene
              </Button>
            )
          }
          things={view.scenes}
          openId={draft?.id}
          onOpen={open}
          line={(s) => (
            <TwoLines name={s.name}>
              {s.usedBy.length === 0 ? 'used by no bot' : `used by ${s.usedBy.join(', ')}`}
            </TwoLines>
          )}
        />
        <Panel label="Scene" className="flex min-h-0 flex-col overflow-hidden">
          {!draft || !script ? (
            <Empty title="Choose a scene" />
          ) : (
            <>
              <div className="flex flex-wrap items-center gap-2 border-b border-rule px-4 py-2">
                <Input
                  aria-label="Name of the shared scene"
                  disabled={!view.mayChange}
                  className="!w-60 font-display font-semibold"
                  placeholder="Its name"
                  maxLength={60}
                  value={draft.name}
                  onChange={(e) => change({ ...draft, name: e.target.value })}
                />
                <span className="text-small text-ink-2">takes</span>
                <Input
                  key={draft.id}
                  aria-label="Inputs, with commas"
                  disabled={!view.mayChange}
                  className="!w-52 text-small"
                  placeholder="no inputs"
                  defaultValue={draft.inputs.join(', ')}
                  onBlur={(e) => {
                    const inputs = [
                      ...new Set(
                        e.target.value
                          .split(',')
                          .map((x) => x.trim())
                          .filter((x) => VALUE_NAME.test(x)),
                      ),
                    ];
                    if (inputs.join() !== draft.inputs.join()) change({ ...draft, inputs });
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
                {view.mayChange && (
                  <span className="ml-auto flex gap-1.5">
                    <Button
                      small
                      kind="quiet"
                      disabled={past.length === 0}
                      onClick={() => {
                        const before = past.at(-1);
                        if (before) {
                          setDraft(before);
                          setPast(past.slice(0, -1));
                        }
                      }}
                    >
                      Undo
                    </Button>
                    {draft.id !== null && (
                      <Button small kind="danger" onClick={() => void remove(draft.id ?? '')}>
                        Remove
                      </Button>
                    )}
                    <Button
                      small
                      kind="primary"
                      disabled={saving.busy || draft.name.trim() === ''}
                      onClick={() => void save()}
                    >
                      Keep the scene
                    </Button>
                  </span>
                )}
              </div>
              <div className="min-h-0 flex-1 overflow-y-auto" tabIndex={0} role="region" aria-label="Lines">
                <AroundScript
                  value={{ script, view: things, channels: CHANNELS, mayChange: view.mayChange, inputs: draft.inputs }}
                >
                  <ScriptView
                    key={draft.id ?? 'new'}
                    faults={faults}
                    traffic={null}
                    running={null}
                    chosen={chosen}
                    onChosen={setChosen}
                    onChange={(next) => change({ ...draft, steps: next.scenes[0]?.steps ?? [] })}
                  />
                </AroundScript>
              </div>
              {faults[0] && (
                <div role="status" className="flex items-center gap-2 border-t border-rule px-4 py-2 text-small">
                  <Pill tone={faults[0].weight === 'stops' ? 'bad' : 'warn'}>{faults.length} found</Pill>
                  <span className="min-w-0 flex-1">{faults[0].sentence}</span>
                  {faults[0].fix && view.mayChange && (
                    <Button
                      small
                      onClick={() => {
                        const fix = faults[0]?.fix;
                        if (fix) change({ ...draft, steps: mended(script, fix).scenes[0]?.steps ?? [] });
                      }}
                    >
                      {faults[0].fix.label}
                    </Button>
                  )}
                  {faults[0].lineId && (
                    <Button small onClick={() => focusLine(faults[0]?.lineId ?? '')}>
                      Show
                    </Button>
                  )}
                </div>
              )}
            </>
          )}
        </Panel>
        {saving.conflict}
      </main>
    </>
  );
}
