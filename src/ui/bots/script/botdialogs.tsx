'use client';

import { useRouter } from 'next/navigation';
import { TZDate } from '@date-fns/tz';
import { useState } from 'react';
import { toast } from 'sonner';
import type { BotFault } from '@/core/bots/faults';
import type { BotScript } from '@/core/bots/model';
import { languageName } from '@/core/localised';
import type { BotView } from '@/services/bots/botviews';
import { Button } from '../../kit/button';
import { RemoveButton } from '../../removing/removebutton';
import { call, Refused, sentence, setting } from '../../kit/call';
import { DateTimeField } from '../../kit/datefield';
import { Dialog } from '../../kit/dialog';
import { download } from '../../kit/download';
import { Check, Field, Input } from '../../kit/field';
import { asDayTime } from '../../kit/figures';
import { Pill } from '../../kit/panel';
import { options, Select } from '../../kit/select';
import { Whole } from './pieces';
import { WordingEditor } from './wordingeditor';

/**
 * The checks and tests stand between a draft and customers; what fails is named, and may be overridden only with a
 * reason.
 */
export function PublishDialog({
  view,
  faults,
  revision,
  zone,
  onClose,
  onDone,
}: {
  view: BotView;
  faults: readonly BotFault[];
  revision: number;
  zone: string;
  onClose: () => void;
  onDone: () => void;
}) {
  const [note, setNote] = useState('');
  const [when, setWhen] = useState('');
  const [reason, setReason] = useState('');
  const [failing, setFailing] = useState<readonly { readonly where: string; readonly what: string }[]>([]);
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const stops = faults.filter((f) => f.weight === 'stops');
  const next = (view.versions[0]?.version ?? 0) + 1;
  const at = (): number | null => {
    if (when === '') return null;
    const [year = 0, month = 1, day = 1, hour = 0, minute = 0] = when.split(/\D/).map(Number);
    return new TZDate(year, month - 1, day, hour, minute, 0, zone).getTime();
  };
  const publish = async () => {
    setBusy(true);
    try {
      const { version } = await setting<{ version: number }>('publish-bot', {
        id: view.bot.id,
        revision,
        note: note.trim(),
        at: at(),
        override: reason.trim() === '' ? null : reason.trim(),
      });
      toast.success(
        when === ''
          ? `Version ${version} is live for the next contact.`
          : `Version ${version} goes live on ${asDayTime(at() ?? 0, zone)}.`,
      );
      onDone();
    } catch (error) {
      setFault(sentence(error));
      setFailing(error instanceof Refused && error.code === 'tests-fail' ? error.faults : []);
    } finally {
      setBusy(false);
    }
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Publish version ${next}`}
      description={
        view.doors.length === 0
          ? 'No door uses this bot yet.'
          : `From the next contact on, by ${view.doors.map((d) => d.name).join(', ')}. Conversations under way stay on their version.`
      }
    >
      {faults.length > 0 && (
        <ul className="mb-3 max-h-48 overflow-y-auto">
          {faults.map((f, i) => (
            <li key={i} className="flex gap-2 border-t border-rule py-1 text-small">
              <Pill tone={f.weight === 'stops' ? 'bad' : 'warn'} className="self-start">
                {f.weight === 'stops' ? 'stops contacts' : 'advice'}
              </Pill>
              <span>{f.sentence}</span>
            </li>
          ))}
        </ul>
      )}
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void publish();
        }}
      >
        <Field label="What changed" hint="For whoever looks at the versions later">
          {(p) => <Input {...p} value={note} maxLength={300} onChange={(e) => setNote(e.target.value)} />}
        </Field>
        <Field label="Goes live" hint="Empty is at once">
          {(p) => <DateTimeField id={p.id} label="Goes live" value={when} onChange={setWhen} />}
        </Field>
        {fault && (
          <p role="alert" className="text-small text-clay">
            {fault}
          </p>
        )}
        {failing.length > 0 && (
          <>
            <ul className="text-small">
              {failing.map((f, i) => (
                <li key={i} className="border-t border-rule py-1">
                  <b className="font-medium">{f.where}</b>: {f.what}
                </li>
              ))}
            </ul>
            <Field label="Publish all the same, because" hint="Kept with the version">
              {(p) => <Input {...p} value={reason} maxLength={300} onChange={(e) => setReason(e.target.value)} />}
            </Field>
          </>
        )}
        <div className="flex items-center gap-2">
          <Button
            kind="primary"
            type="submit"
            disabled={busy || stops.length > 0 || (failing.length > 0 && reason.trim().length < 5)}
          >
            {when === '' ? `Publish version ${next}` : `Plan version ${next}`}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
          {view.tests.length > 0 && failing.length === 0 && (
            <span className="text-small text-ink-2">
              {view.tests.length} {view.tests.length === 1 ? 'test runs' : 'tests run'} first
            </span>
          )}
        </div>
        {stops.length > 0 && <p className="text-small text-clay">Mend what stops contacts first.</p>}
      </form>
    </Dialog>
  );
}

/** What is true of the whole bot. */
export function AboutDialog({
  script,
  view,
  onChange,
  onClose,
}: {
  script: BotScript;
  view: BotView;
  onChange: (script: BotScript) => void;
  onClose: () => void;
}) {
  const router = useRouter();
  const off = !view.mayChange;
  const take = async () => {
    try {
      const file = await call<{ name: string; text: string }>(`/api/read/bot-file?id=${view.bot.id}`);
      download(file.name, 'application/json', file.text);
    } catch (error) {
      toast.error(sentence(error));
    }
  };
  const languages = [...new Set([...view.languages, ...script.languages])];
  return (
    <Dialog open onClose={onClose} title="About this bot" wide>
      <fieldset disabled={off} className="flex flex-col gap-3">
        <div className="grid grid-cols-[minmax(0,1fr)_100px] gap-3">
          <Field label="Name customers see">
            {(p) => (
              <Input
                {...p}
                value={script.shownName}
                maxLength={40}
                onChange={(e) => onChange({ ...script, shownName: e.target.value })}
              />
            )}
          </Field>
          <Field label="Mark" hint="1–2 characters">
            {(p) => (
              <Input
                {...p}
                value={script.picture}
                maxLength={2}
                onChange={(e) => onChange({ ...script, picture: e.target.value })}
              />
            )}
          </Field>
        </div>
        <fieldset>
          <legend className="mb-1 text-small font-medium text-ink-2">Languages it is worded in</legend>
          <div className="flex gap-4">
            {languages.map((l) => (
              <Check
                key={l}
                label={languageName(l)}
                checked={script.languages.includes(l)}
                onChange={(e) =>
                  onChange({
                    ...script,
                    languages: e.target.checked ? [...script.languages, l] : script.languages.filter((x) => x !== l),
                  })
                }
              />
            ))}
          </div>
        </fieldset>
        <div className="grid grid-cols-2 gap-3">
          <Field label="Queue when something fails" hint="The customer is told, and a person takes over.">
            {(p) => (
              <Select
                {...p}
                value={script.fallbackQueueId}
                onChange={(chosen) => onChange({ ...script, fallbackQueueId: chosen })}
              >
                {!view.queues.some((q) => q.id === script.fallbackQueueId) && (
                  <option value={script.fallbackQueueId}>gone</option>
                )}
                {options(view.queues)}
              </Select>
            )}
          </Field>
          <Field label="Scene after the contact" hint="Runs when a person has ended it">
            {(p) => (
              <Select
                {...p}
                value={script.afterSceneId ?? ''}
                onChange={(chosen) => onChange({ ...script, afterSceneId: chosen || null })}
              >
                <option value="">none</option>
                {options(script.scenes)}
              </Select>
            )}
          </Field>
        </div>
        <WordingEditor
          label="When something fails"
          rows={1}
          wording={script.fallbackWording}
          onChange={(fallbackWording) => onChange({ ...script, fallbackWording })}
        />
        <p className="flex flex-wrap items-center gap-1 text-small">
          Who goes quiet in writing is reminded after{' '}
          <Whole
            label="Seconds until the reminder"
            least={30}
            most={86_400}
            value={script.quiet.remindSeconds}
            onChange={(remindSeconds) => onChange({ ...script, quiet: { ...script.quiet, remindSeconds } })}
          />{' '}
          s and closed{' '}
          <Whole
            label="Seconds until it is closed"
            least={30}
            most={86_400}
            value={script.quiet.closeSeconds}
            onChange={(closeSeconds) => onChange({ ...script, quiet: { ...script.quiet, closeSeconds } })}
          />{' '}
          s later.
        </p>
        <WordingEditor
          label="Reminder"
          rows={1}
          wording={script.quiet.wording}
          onChange={(wording) => onChange({ ...script, quiet: { ...script.quiet, wording } })}
        />
      </fieldset>
      <div className="mt-3 flex gap-2">
        <Button kind="primary" onClick={onClose}>
          Done
        </Button>
        <Button onClick={() => void take()}>Take out as JSON</Button>
        {!off && (
          <span className="ml-auto">
            <RemoveButton kind="bot" id={view.bot.id} name={view.bot.name} onRemoved={() => router.push('/bots')} />
          </span>
        )}
      </div>
    </Dialog>
  );
}
