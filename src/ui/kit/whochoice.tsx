import type { Level } from '@/core/people/levels';
import type { Who } from '@/core/people/membership';

type Named = { readonly id: string; readonly name: string };

/** The level that is asked of a skill until another is chosen. */
const USUAL_LEVEL: Level = 3;

/** Choices that say whom a rule is about, for a Select; `whoOf` reads what was chosen. */
export const whoChoices = ({
  teams,
  skills,
  roles,
}: {
  readonly teams: readonly Named[];
  readonly skills: readonly Named[];
  readonly roles: readonly Named[];
}) => [
  <option key="everyone" value="everyone">
    everyone
  </option>,
  ...(
    [
      ['team', 'Team', teams],
      ['skill', `Skill, ${USUAL_LEVEL} or better`, skills],
      ['role', 'Role', roles],
    ] as const
  ).map(([by, label, things]) => (
    <optgroup key={by} label={label}>
      {things.map((x) => (
        <option key={x.id} value={`${by}|${x.id}`}>
          {x.name}
        </option>
      ))}
    </optgroup>
  )),
];

/** Whom a choice means; nobody for the heading of the list. */
export function whoOf(chosen: string): Who | null {
  const [by, id = ''] = chosen.split('|');
  if (by === 'everyone') return { by };
  if (by === 'team' || by === 'role') return { by, id };
  return by === 'skill' ? { by, id, atLeast: USUAL_LEVEL } : null;
}
export const choiceOf = (who: Who): string => (who.by === 'everyone' ? who.by : `${who.by}|${who.id}`);
