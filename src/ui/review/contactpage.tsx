'use client';

import { VISIT_END_WORDS } from '@/core/measures/facts';
import type { ContactView } from '@/services/floor/contactview';
import { ChannelMark } from '../kit/channelmark';
import { asClock, asDayTime } from '../kit/figures';
import { FromPage } from '../kit/frompage';
import { Link } from '../kit/link';
import { useLive } from '../kit/live';
import { Empty, Panel, Pill } from '../kit/panel';
import { Unproven } from '../kit/unproven';
import { WhatItCameTo } from './keptsummary';
import { ReasonLines } from './reasonlines';
import { Rung } from './rung';
import { ContactCoaching } from '../coaching/contactcoaching';
import { useHolds } from '../lane/viewer';
import { MoodLine } from './moodline';
import { Transcript } from './transcript';

const STATES: Readonly<Record<ContactView['state'], string>> = {
  'with-bot': 'with the bot',
  waiting: 'waiting',
  after: 'asked something after it',
  talking: 'with a person',
  ended: 'ended',
};

/** One contact: what was said, and its trail: why it went where it went. */
export function ContactPage({ initial, zone }: { initial: ContactView; zone: string }) {
  const { data, refetch } = useLive<ContactView>(
    `/api/read/contact?id=${encodeURIComponent(initial.id)}`,
    'all',
    initial,
  );
  const c = data ?? initial;
  const holds = useHolds();
  return (
    <main className="grid gap-3 p-4 lg:grid-cols-[minmax(0,1fr)_400px]">
      <Panel className="min-w-0 p-4" label="Conversation">
        <div className="mb-3 flex flex-wrap items-center gap-2">
          <ChannelMark channel={c.channel} />
          <h1 className="text-title">
            <Link href={`/customers/${encodeURIComponent(c.customerId)}`} className="hover:underline">
              {c.customer}
            </Link>
          </h1>
          <Unproven vouched={c.vouched} />
          <Pill tone={c.state === 'ended' ? 'plain' : 'good'}>{STATES[c.state]}</Pill>
          <span className="text-small text-ink-2">
            {c.door} · {asDayTime(c.startedAt, zone)}
            {c.bot ? ` · ${c.bot}` : ''}
          </span>
          {c.botId !== null && holds('settings.view') && (
            <Link
              href={`/bots/${encodeURIComponent(c.botId)}?said=${encodeURIComponent(c.id)}`}
              className="ml-auto text-small text-plum hover:underline"
            >
              Try its draft with these words
            </Link>
          )}
        </div>
        <WhatItCameTo summary={c.summary} />
        <MoodLine
          contactId={c.id}
          mood={c.mood}
          onChanged={c.state === 'ended' && holds('people.coach') ? () => void refetch() : null}
        />
        {c.messages.length === 0 ? (
          <Empty title="Nothing was said" />
        ) : (
          <Transcript messages={c.messages} zone={zone} />
        )}
      </Panel>
      <div className="flex min-w-0 flex-col gap-3">
        <Panel className="p-4" label="What we know">
          <h2 className="text-panel">What we know</h2>
          {c.page && <FromPage page={c.page} />}
          {c.fields.length === 0 && !c.page ? (
            <p className="text-small text-ink-2">No field was filled.</p>
          ) : (
            <dl>
              {c.fields.map((f) => (
                <div key={f.label} className="flex border-t border-rule py-1 text-small">
                  <dt className="w-28 text-ink-2">{f.label}</dt>
                  <dd className="min-w-0 flex-1">{f.value}</dd>
                </div>
              ))}
            </dl>
          )}
        </Panel>
        {holds('people.coach') && <ContactCoaching contactId={c.id} over={c.state === 'ended'} zone={zone} />}
        <Panel className="p-4" label="Trail">
          <h2 className="text-panel">Trail</h2>
          {c.visits.length === 0 && <p className="text-small text-ink-2">It never entered a queue.</p>}
          {c.visits.map((v) => (
            <section key={v.id} className="mt-2">
              <h3 className="text-small">
                {v.queue}{' '}
                <span className="font-body font-normal text-ink-2">
                  waited {asClock(((v.endedAt ?? c.now) - v.placedAt) / 1000)} ·{' '}
                  {v.how ? VISIT_END_WORDS[v.how] : 'still waiting'}
                </span>
              </h3>
              {v.needs && (
                <p className="text-small text-ink-2">
                  needed {v.needs} or better{v.priority > 0 ? `, priority ${v.priority}` : ''}
                </p>
              )}
              {v.decisions.map((d, i) => (
                <div key={i} className="mt-1 border-l-3 border-rule-strong pl-2">
                  <ReasonLines reasons={d} />
                </div>
              ))}
              <Rung calls={v.rung} zone={zone} />
              {v.nowWhy && (
                <div className="mt-1 border-l-3 border-brass-2 pl-2">
                  <p className="text-small font-semibold">Now</p>
                  <ReasonLines reasons={v.nowWhy} />
                </div>
              )}
            </section>
          ))}
          {c.legs.map((l) => (
            <p key={l.id} className="mt-2 border-t border-rule pt-2 text-small">
              <b>{l.person}</b> {l.endedAt === null ? 'has it now' : `handled it in ${asClock(l.handleSeconds)}`}
              {l.heldSeconds > 0 ? `, on hold ${asClock(l.heldSeconds)} of it` : ''}
              {l.outcome ? `, filed ${l.outcome}` : ''}
              {l.passedOn ? ', passed it on' : ''}
            </p>
          ))}
        </Panel>
      </div>
    </main>
  );
}
