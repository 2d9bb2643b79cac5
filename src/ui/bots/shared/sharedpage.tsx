'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { READY_NAMES, READY_SCENES, type ReadyScene, readyScene } from '@/core/bots/readymade';
import type { Surroundings } from '@/services/bots/botviews';
import type { SharedView } from '@/services/bots/sharedscenes';
import { Button } from '../../kit/button';
import { newKey, sentence, setting } from '../../kit/call';
import { Dialog } from '../../kit/dialog';
import { doing } from '../../kit/doing';
import { Field, Input } from '../../kit/field';
import { ListPanel, TwoLines } from '../../kit/list';
import { useLive } from '../../kit/live';
import { Empty, Panel } from '../../kit/panel';
import { options, Select } from '../../kit/select';
import { StopNav } from '../../lane/stopnav';
import { SharedEditor } from './sharededitor';

/** Scenes kept once and used by several bots. Bots that are live keep the scene they were published with. */
export function SharedPage({
  initial,
  around,
  open,
}: {
  initial: SharedView;
  around: Surroundings;
  /** The scene to begin with; null for the first. */
  open: string | null;
}) {
  const { data, refetch } = useLive<SharedView>('/api/read/shared-scenes', ['settings.changed'], initial);
  const { data: now } = useLive<Surroundings>('/api/read/bot-surroundings', ['settings.changed'], around);
  const view = data ?? initial;
  const things = now ?? around;
  const [openId, setOpenId] = useState<string | null>(
    (view.scenes.find((s) => s.id === open) ?? view.scenes[0])?.id ?? null,
  );
  const [adding, setAdding] = useState(false);
  const scene = view.scenes.find((s) => s.id === openId);
  const remove = async (id: string) => {
    if (
      await doing('remove-bot-part', { kind: 'shared-scene', id }, 'The scene is gone; it can be undone in History.')
    ) {
      setOpenId(null);
      void refetch();
    }
  };
  return (
    <>
      <StopNav stop="Bots" />
      <main className="grid h-[calc(100vh-100px)] min-h-[480px] grid-cols-[240px_minmax(0,1fr)_340px] gap-3 p-4 max-xl:grid-cols-[200px_minmax(0,1fr)_300px]">
        <ListPanel
          title="Shared scenes"
          none="What several bots say or ask in the same way stands here once."
          tools={
            view.mayChange && (
              <Button small onClick={() => setAdding(true)}>
                New scene
              </Button>
            )
          }
          things={view.scenes}
          openId={openId ?? undefined}
          onOpen={(s) => setOpenId(s.id)}
          line={(s) => (
            <TwoLines name={s.name}>
              {s.usedBy.length === 0 ? 'used by no bot' : `used by ${s.usedBy.join(', ')}`}
            </TwoLines>
          )}
        />
        {scene ? (
          <SharedEditor
            key={scene.id}
            scene={scene}
            view={view}
            things={things}
            onSaved={() => void refetch()}
            onRemove={() => void remove(scene.id)}
          />
        ) : (
          <Panel label="Scene" className="col-span-2">
            <Empty title="Choose a scene" />
          </Panel>
        )}
      </main>
      {adding && (
        <NewScene
          things={things}
          onClose={() => setAdding(false)}
          onAdded={(id) => {
            setAdding(false);
            void refetch().then(() => setOpenId(id));
          }}
        />
      )}
    </>
  );
}

function NewScene({
  things,
  onClose,
  onAdded,
}: {
  things: Surroundings;
  onClose: () => void;
  onAdded: (id: string) => void;
}) {
  const calling = things.queues.filter((q) => q.channels.includes('voice'));
  const [name, setName] = useState('');
  const [from, setFrom] = useState<ReadyScene>('empty');
  const [queueId, setQueueId] = useState(calling[0]?.id ?? '');
  const add = async () => {
    try {
      const { id } = await setting<{ id: string }>('save-shared-scene', {
        id: null,
        revision: 0,
        name: name.trim(),
        inputs: [],
        steps: readyScene(from, { callsId: queueId, queueId }, newKey),
      });
      onAdded(id);
    } catch (error) {
      toast.error(sentence(error));
    }
  };
  return (
    <Dialog open onClose={onClose} title="New shared scene" description="Any bot plays it and goes on after it.">
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void add();
        }}
      >
        <Field label="Name of the new scene">
          {(p) => (
            <Input {...p} required autoFocus maxLength={60} value={name} onChange={(e) => setName(e.target.value)} />
          )}
        </Field>
        <Field label="Begin with">
          {(p) => (
            <Select {...p} value={from} onChange={(chosen) => setFrom(chosen as ReadyScene)}>
              {options(
                READY_SCENES.filter((s) => s === 'empty' || calling.length > 0),
                (s) => READY_NAMES[s],
              )}
            </Select>
          )}
        </Field>
        {from !== 'empty' && (
          <Field label="Called back by">
            {(p) => (
              <Select {...p} value={queueId} onChange={setQueueId}>
                {options(calling)}
              </Select>
            )}
          </Field>
        )}
        <Button kind="primary" type="submit" disabled={name.trim() === ''}>
          Begin it
        </Button>
      </form>
    </Dialog>
  );
}
