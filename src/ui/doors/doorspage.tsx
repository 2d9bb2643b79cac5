'use client';

import type { DoorLine, DoorsView } from '@/services/doors/doors';
import { Button, LinkButton } from '../kit/button';
import { ChannelMark } from '../kit/channelmark';
import { asDayTime } from '../kit/figures';
import { Unapplied } from '../kit/list';
import { useLive } from '../kit/live';
import { Empty, Panel, PanelHead, Pill } from '../kit/panel';
import { Table } from '../kit/table';
import { RetiredList } from '../removing/retiredlist';
import { ByHandPanel } from './byhandpanel';
import { DoorKeysPanel } from './doorkeyspanel';
import { firstOpen, nameIn, useGathered } from '../drafts/usegathered';
import { DOOR_SHAPE, type Draft, draftOf } from './doordraft';
import { DoorForm } from './doorform';
import { openingWords } from './openingwords';

/** Where contacts come in: each address with its hours and bot. */
export function DoorsPage({ initial, chosen }: { initial: DoorsView; chosen: string | null }) {
  const { data, refetch } = useLive<DoorsView>('/api/read/doors', ['settings.changed'], initial);
  const view = data ?? initial;
  const gathered = useGathered<Draft>({
    kind: 'door',
    act: 'save-door',
    things: view.doors.map(draftOf),
    shape: DOOR_SHAPE,
    first: firstOpen(view.doors, chosen),
    refetch,
    nameOf: nameIn(view.hours, view.bots, view.queues, view.doors, view.people),
  });
  const { draft, begun } = gathered;
  // A new door keeps the hours that most doors keep.
  const doorsWith = (hoursId: string): number => view.doors.filter((d) => d.hoursId === hoursId).length;
  const usual = view.hours.toSorted((a, b) => doorsWith(b.id) - doorsWith(a.id))[0]?.id ?? '';
  const add = () =>
    gathered.begin({
      id: null,
      revision: 0,
      name: '',
      channel: 'chat',
      address: '',
      hoursId: usual,
      botId: view.bots[0]?.id ?? '',
      languages: ['en'],
      closedWording: { en: 'We are closed just now.' },
      trial: null,
      whenClosed: { does: 'end' },
      meets: { by: 'bot' },
    });
  const zoneOf = (door: DoorLine) => view.hours.find((h) => h.id === door.hoursId)?.zone ?? 'UTC';
  const kept = view.doors.find((d) => d.id === draft?.id);
  return (
    <main className="grid gap-3 p-4 lg:grid-cols-[minmax(0,1fr)_380px]">
      <Panel className="min-w-0" label="Doors">
        <PanelHead
          title="Where contacts come in"
          marks={
            <>
              <Pill>{view.doors.length} doors</Pill>
              <Pill tone="good">{view.doors.filter((d) => d.opening.open).length} open now</Pill>
            </>
          }
        >
          {begun && (
            <Button onClick={() => gathered.open(null)}>
              {begun.label || 'New door'}, not added yet <Unapplied />
            </Button>
          )}
          {view.mayChange && (
            <Button kind="primary" onClick={add}>
              Add a door
            </Button>
          )}
        </PanelHead>
        {view.doors.length === 0 ? (
          <Empty title="No door yet">
            Add one for a telephone number, a web chat, a messaging account or an SMS number.
          </Empty>
        ) : (
          <Table
            label="Doors"
            rows={view.doors}
            idOf={(door) => door.id}
            rowClass={(door) => draft?.id === door.id && 'bg-chosen'}
            columns={[
              {
                id: 'door',
                head: 'Door',
                by: (door) => door.name,
                cell: (door) => (
                  <button
                    type="button"
                    aria-pressed={draft?.id === door.id}
                    className="flex items-center gap-2 text-left font-medium"
                    onClick={() => gathered.open(door.id)}
                  >
                    <ChannelMark channel={door.channel} />
                    {door.name}
                    {gathered.isChanged(door.id) && <Unapplied />}
                  </button>
                ),
              },
              { id: 'address', head: 'Address', cell: (door) => door.address, className: 'text-ink-2' },
              {
                id: 'bot',
                head: 'Customers meet',
                by: (door) => (door.meets.by === 'people' ? '' : door.botName),
                cell: (door) =>
                  door.meets.by === 'people' ? (
                    door.meets.personIds
                      .map((id) => view.people.find((p) => p.id === id)?.name ?? 'somebody')
                      .join(', ')
                  ) : (
                    <>
                      {door.botName}{' '}
                      {door.botLive === null ? (
                        <Pill tone="bad">never published</Pill>
                      ) : (
                        <Pill>version {door.botLive}</Pill>
                      )}
                      {door.trial && (
                        <Pill tone="warn" className="ml-1">
                          {door.trial.version} on trial, {door.trial.percent}%
                        </Pill>
                      )}
                      {door.meets.by === 'first-words' && (
                        <Pill className="ml-1">{door.meets.rules.length} by first words</Pill>
                      )}
                    </>
                  ),
              },
              {
                id: 'hours',
                head: 'Hours',
                cell: (door) => (
                  <Pill tone={door.opening.byHand ? 'bad' : door.opening.open ? 'good' : 'warn'}>
                    {door.opening.byHand
                      ? `${door.opening.open ? 'opened' : 'shut'} until ${asDayTime(door.opening.byHand.until, zoneOf(door))}`
                      : openingWords(door.opening, zoneOf(door))}
                  </Pill>
                ),
              },
              {
                id: 'languages',
                head: 'Languages',
                cell: (door) => door.languages.join(' '),
                className: 'text-small text-ink-2',
              },
            ]}
          />
        )}
        <div className="px-2">
          <RetiredList kind="door" onBack={(id) => void gathered.settled(id)} />
        </div>
        <div className="border-t border-rule px-4 py-3">
          <div className="flex items-center gap-2">
            <h2 className="text-panel">Opening hours</h2>
            <LinkButton small href="/doors/hours" className="ml-auto">
              {view.mayChange ? 'Change hours' : 'Look at hours'}
            </LinkButton>
          </div>
          <ul className="mt-1 divide-y divide-rule">
            {view.hours.map((h) => (
              <li key={h.id} className="flex items-center gap-3 py-2">
                <span className="w-40 font-medium">{h.name}</span>
                <span className="text-small text-ink-2">{h.zone}</span>
                <Pill tone={h.opening.open ? 'good' : 'warn'}>{openingWords(h.opening, h.zone)}</Pill>
                <span className="text-small text-ink-2">
                  {h.usedBy} {h.usedBy === 1 ? 'door' : 'doors'}
                </span>
              </li>
            ))}
          </ul>
        </div>
      </Panel>
      {draft && (
        <div className="flex min-w-0 flex-col gap-3">
          {kept && view.mayChange && (
            <ByHandPanel key={`by hand ${kept.id}`} door={kept} zone={zoneOf(kept)} now={view.now} />
          )}
          <DoorForm key={draft.id ?? 'new'} gathered={gathered} draft={draft} view={view} />
          {kept && view.mayChange && (
            <DoorKeysPanel
              key={`keys of ${kept.id}`}
              door={kept}
              keys={view.keys.filter((k) => k.doorId === kept.id)}
            />
          )}
        </div>
      )}
    </main>
  );
}
