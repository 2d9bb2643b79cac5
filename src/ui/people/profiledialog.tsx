'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { CHANNEL_NAMES, CHANNELS, type Channel } from '@/core/channels';
import type { DutyRow } from '@/core/people/duty';
import { DEFAULT_LOAD, FULL, type LoadRules } from '@/core/people/load';
import type { PeopleView } from '@/services/people';
import { Button } from '../kit/button';
import { sentence, setting } from '../kit/call';
import { ChannelMark } from '../kit/channelmark';
import { Dialog } from '../kit/dialog';
import { Field, Input } from '../kit/field';

const BANDS = [1, 2, 3, 4];

/** A duty profile: for each queue and channel its band (1 is taken first) and delay. Applied to everybody on it in one press. */
export function ProfileDialog({ view, profile, onClose, onSaved }: { view: PeopleView; profile: PeopleView['profiles'][number] | null; onClose: () => void; onSaved: () => void }) {
  const [name, setName] = useState(profile?.name ?? '');
  const [rows, setRows] = useState<readonly DutyRow[]>(profile?.rows ?? []);
  const [load, setLoad] = useState<LoadRules>(profile?.load ?? DEFAULT_LOAD);
  const [acceptSeconds, setAccept] = useState(profile?.acceptSeconds ?? 20);
  const [fault, setFault] = useState<string | null>(null);
  const on = view.people.filter((p) => p.active && p.dutyProfileId === profile?.id);
  const rowOf = (queueId: string, channel: Channel) => rows.find((r) => r.queueId === queueId && r.channel === channel);
  const put = (queueId: string, channel: Channel, band: number, delaySeconds: number) => setRows([...rows.filter((r) => r.queueId !== queueId || r.channel !== channel), ...(band > 0 ? [{ queueId, channel, band, delaySeconds }] : [])]);
  const save = async () => {
    try {
      const { people } = await setting<{ people: number }>('save-profile', { id: profile?.id ?? null, revision: profile?.revision ?? 0, name, rows, load, acceptSeconds });
      toast.success(`${name} applied to ${people} ${people === 1 ? 'person' : 'people'}; it counts from the next contact on.`);
      onSaved();
    } catch (error) {
      setFault(sentence(error));
    }
  };
  return (
    <Dialog wide open onClose={onClose} title={profile ? `Duty profile ${profile.name}` : 'New duty profile'} description={profile ? `${on.length} people are on it, ${on.filter((p) => p.duty === 'ready').length} of them on duty` : 'Which queues, in which order, and how much at once'}>
      <form className="flex flex-col gap-3" onSubmit={(e) => { e.preventDefault(); void save(); }}>
        <div className="grid grid-cols-2 gap-3"><Field label="Name">{(p) => <Input {...p} value={name} onChange={(e) => setName(e.target.value)} />}</Field><Field label="Seconds to accept an offer">{(p) => <Input {...p} type="number" min={5} max={120} value={acceptSeconds} onChange={(e) => setAccept(e.target.valueAsNumber)} />}</Field></div>
        <table className="w-full text-small"><caption className="mb-1 text-left text-small font-medium text-ink-2">Band per queue and channel; band 1 is taken before 2. “after” waits that many seconds first.</caption>
          <thead><tr className="text-tiny text-ink-2"><th className="text-left font-medium">Queue</th>{CHANNELS.map((c) => <th key={c} className="py-1 text-left font-medium"><span className="inline-flex items-center gap-1"><ChannelMark channel={c} size={14} />{CHANNEL_NAMES[c].name}</span></th>)}</tr></thead>
          <tbody>{view.queues.map((q) => (
            <tr key={q.id} className="border-t border-rule"><th scope="row" className="py-1.5 text-left font-medium">{q.name}</th>
              {CHANNELS.map((c) => {
                const row = rowOf(q.id, c);
                return <td key={c} className="pr-2">{q.channels.includes(c) ? <span className="flex items-center gap-1">
                  <select aria-label={`${q.name} by ${CHANNEL_NAMES[c].name}: band`} className="rounded-control border border-rule-strong bg-sheet px-1 py-0.5" value={row?.band ?? 0} onChange={(e) => put(q.id, c, Number(e.target.value), row?.delaySeconds ?? 0)}><option value={0}>–</option>{BANDS.map((b) => <option key={b} value={b}>{b}</option>)}</select>
                  {row && <input aria-label={`${q.name} by ${CHANNEL_NAMES[c].name}: after seconds`} type="number" min={0} max={3600} className="w-14 rounded-control border border-rule-strong bg-sheet px-1 py-0.5" value={row.delaySeconds} onChange={(e) => put(q.id, c, row.band, Number.isNaN(e.target.valueAsNumber) ? 0 : e.target.valueAsNumber)} />}
                </span> : <span className="text-ink-3">not taken</span>}</td>;
              })}</tr>))}</tbody></table>
        <fieldset><legend className="mb-1 text-small font-medium text-ink-2">How much at once: load of {FULL}, and the most of a kind</legend>
          <div className="grid grid-cols-2 gap-x-6 gap-y-2">{CHANNELS.map((c) => <div key={c} className="flex items-center gap-2 text-small"><ChannelMark channel={c} size={15} /><span className="w-20">{CHANNEL_NAMES[c].name}</span>
            <Input aria-label={`Load of one by ${CHANNEL_NAMES[c].name}`} type="number" min={0} max={100} className="!w-20" value={load[c].cost} onChange={(e) => setLoad({ ...load, [c]: { ...load[c], cost: e.target.valueAsNumber } })} /> each,
            <Input aria-label={`Most at once by ${CHANNEL_NAMES[c].name}`} type="number" min={0} max={20} className="!w-16" value={load[c].most} onChange={(e) => setLoad({ ...load, [c]: { ...load[c], most: e.target.valueAsNumber } })} /> at most</div>)}</div></fieldset>
        {fault && <p role="alert" className="text-small text-clay">{fault}</p>}
        <div className="flex gap-2"><Button kind="primary" type="submit">{profile ? `Apply to ${on.length} people` : 'Add the profile'}</Button><Button onClick={onClose}>Cancel</Button></div>
      </form>
    </Dialog>
  );
}
