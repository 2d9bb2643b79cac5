import { clsx } from 'clsx';
import { CHANNELS } from '@/core/channels';
import { withOverrides } from '@/core/people/load';
import type { PeopleView, PersonLine } from '@/services/people';
import { ChannelMark } from '../kit/channelmark';
import { Pill } from '../kit/panel';
import { StatePill } from './statepill';

/** People in rows: team, role, duty profile and how many at once. */
export function PeopleList({ view, people, chosen, onChoose }: { view: PeopleView; people: readonly PersonLine[]; chosen: string | null; onChoose: (id: string) => void }) {
  if (people.length === 0) return <p className="py-10 text-center text-ink-2">Nobody matches. Clear the name or the team.</p>;
  return (
    <table className="mt-2 w-full text-left">
      <thead className="sticky top-0 bg-sheet text-tiny text-ink-2"><tr><th className="px-2 py-1.5 font-medium">Person</th><th className="font-medium">State</th><th className="font-medium">Team</th><th className="font-medium">Role</th><th className="font-medium">Duty profile</th><th className="font-medium">At once</th></tr></thead>
      <tbody>
        {people.map((p) => {
          const profile = view.profiles.find((x) => x.id === p.dutyProfileId);
          const load = profile && withOverrides(profile.load, p.most);
          return (
            <tr key={p.id} className={clsx('border-t border-rule', chosen === p.id ? 'bg-chosen' : 'hover:bg-sunk/40')}>
              <td className="px-2 py-1.5"><button type="button" className="text-left font-medium" onClick={() => onChoose(p.id)}>{p.name}</button>{!p.active && <Pill className="ml-2">switched off</Pill>}</td>
              <td><StatePill duty={p.duty} reason={p.dutyReason} reachable={p.reachable} open={p.open} /></td>
              <td className="text-small">{view.teams.find((t) => t.id === p.teamId)?.name}</td><td className="text-small text-ink-2">{p.role}</td><td className="text-small">{profile?.name}</td>
              <td><span className="flex gap-2.5 text-small">{CHANNELS.map((c) => load && load[c].most > 0 && <span key={c} className="inline-flex items-center gap-1"><ChannelMark channel={c} size={14} />{load[c].most}</span>)}{load && CHANNELS.every((c) => load[c].most === 0) && <Pill tone="bad">takes nothing</Pill>}</span></td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
