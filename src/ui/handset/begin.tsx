'use client';

import { useEffect, useState } from 'react';
import { languageName } from '@/core/localised';
import { Button } from '../kit/button';
import { sentence } from '../kit/call';
import { ChannelMark } from '../kit/channelmark';
import { Field, Input } from '../kit/field';
import { options, Select } from '../kit/select';
import { type Conversation, type Door, type Held, start } from './channelclient';

/** A number for a made-up customer, from a range kept free for fiction. */
const someNumber = () => `+35320914${String(1000 + Math.floor(Math.random() * 9000))}`;

export function Begin({
  door,
  onBack,
  onBegun,
}: {
  door: Door;
  onBack: () => void;
  onBegun: (held: Held, first: Conversation) => void;
}) {
  const voice = door.channel === 'voice';
  const [from, setFrom] = useState('');
  const [name, setName] = useState('');
  const [language, setLanguage] = useState(door.languages[0] ?? 'en');
  const [page, setPage] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  useEffect(
    () =>
      setFrom(voice || door.channel === 'sms' ? someNumber() : `guest-${Math.floor(Math.random() * 90000) + 10000}`),
    [voice, door.channel],
  );
  const begin = async () => {
    setBusy(true);
    try {
      const first = await start({
        door: door.id,
        from: from.trim(),
        language,
        ...(name.trim() ? { name: name.trim() } : {}),
        ...(page.trim()
          ? { page: { address: page.trim(), place: new Intl.DateTimeFormat().resolvedOptions().timeZone } }
          : {}),
      });
      onBegun({ contact: first.contact, token: first.token }, first);
    } catch (error) {
      setFault(sentence(error));
      setBusy(false);
    }
  };
  return (
    <form
      className="flex flex-1 flex-col gap-3 p-4"
      onSubmit={(e) => {
        e.preventDefault();
        void begin();
      }}
    >
      <div className="flex items-center gap-2">
        <ChannelMark channel={door.channel} size={24} />
        <h2 className="text-panel">{door.name}</h2>
      </div>
      <Field label={voice || door.channel === 'sms' ? 'Your number' : 'Your account'}>
        {(p) => <Input {...p} required value={from} onChange={(e) => setFrom(e.target.value)} />}
      </Field>
      <Field label="Your name" hint="May be left empty">
        {(p) => <Input {...p} value={name} onChange={(e) => setName(e.target.value)} />}
      </Field>
      <Field label="Your language">
        {(p) => (
          <Select {...p} value={language} onChange={(chosen) => setLanguage(chosen)}>
            {options(door.languages, languageName)}
          </Select>
        )}
      </Field>
      {door.channel === 'chat' && (
        <Field label="Page you write from" hint="May be left empty; https://…">
          {(p) => <Input {...p} type="url" value={page} onChange={(e) => setPage(e.target.value)} />}
        </Field>
      )}
      {fault && (
        <p role="alert" className="text-small text-clay">
          {fault}
        </p>
      )}
      <div className="mt-auto flex gap-2">
        <Button onClick={onBack}>Back</Button>
        <Button kind="primary" type="submit" disabled={busy} className="flex-1">
          {voice ? 'Ring' : 'Start'}
        </Button>
      </div>
    </form>
  );
}
