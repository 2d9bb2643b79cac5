import type { Level } from '@/core/people/levels';
import type { Cell, PeopleView, PersonLine } from '@/services/people/peopleview';

export type SetLevel = { readonly personId: string; readonly skillId: string; readonly level: Level | 'never' | 0 };
export type At = { readonly row: number; readonly column: number };
/** A rectangle of cells, both ends within. */
export type Block = { readonly top: number; readonly bottom: number; readonly left: number; readonly right: number };
/** A line of the grid: a team's heading or a person; `row` counts people only. */
export type Line =
  | { readonly kind: 'team'; readonly id: string; readonly name: string; readonly members: readonly PersonLine[] }
  | { readonly kind: 'person'; readonly person: PersonLine; readonly row: number };

export const blockOf = (a: At, b: At): Block => ({
  top: Math.min(a.row, b.row),
  bottom: Math.max(a.row, b.row),
  left: Math.min(a.column, b.column),
  right: Math.max(a.column, b.column),
});
export const sizeOf = (b: Block): number => (b.bottom - b.top + 1) * (b.right - b.left + 1);

/**
 * A view with levels that were set and not yet read back, the later ones over the earlier. People who are not changed
 * stay the same objects.
 */
export function withLevels(view: PeopleView, changes: readonly SetLevel[]): PeopleView {
  if (changes.length === 0) return view;
  const changed = new Set(changes.map((c) => c.personId));
  return {
    ...view,
    people: view.people.map((p) => {
      if (!changed.has(p.id)) return p;
      const cells: Record<string, Cell> = { ...p.cells };
      for (const c of changes) {
        if (c.personId !== p.id) continue;
        if (c.level === 0) delete cells[c.skillId];
        else cells[c.skillId] = c.level === 'never' ? { level: 0, from: 'never' } : { level: c.level, from: 'own' };
      }
      return { ...p, cells };
    }),
  };
}

export type Sort = { readonly by: 'name' } | { readonly by: 'skill'; readonly skillId: string };
/** People in order, with headings where they are grouped; `people` are the same in rows. */
export function linesOf(
  view: PeopleView,
  people: readonly PersonLine[],
  grouped: boolean,
  sort: Sort,
): { lines: Line[]; ordered: PersonLine[] } {
  const by = (p: PersonLine) => (sort.by === 'skill' ? (p.cells[sort.skillId]?.level ?? 0) : 0);
  const sorted = (list: readonly PersonLine[]) =>
    [...list].sort((a, b) => by(b) - by(a) || a.name.localeCompare(b.name));
  const lines: Line[] = [];
  const ordered: PersonLine[] = [];
  const put = (list: readonly PersonLine[]) => {
    for (const person of sorted(list)) {
      lines.push({ kind: 'person', person, row: ordered.length });
      ordered.push(person);
    }
  };
  if (!grouped) put(people);
  else {
    for (const team of view.teams) {
      const members = people.filter((p) => p.teamId === team.id);
      if (members.length === 0) continue;
      lines.push({ kind: 'team', id: team.id, name: team.name, members });
      put(members);
    }
  }
  return { lines, ordered };
}

/** What a cell shows, as text: its level, N for never, nothing for none. */
export function shownText(person: PersonLine | undefined, skillId: string): string {
  const cell = person?.cells[skillId];
  if (!cell) return '';
  return cell.from === 'never' ? 'N' : cell.level === 0 ? '' : String(cell.level);
}

/** A block as a spreadsheet takes it: tabs between cells, a line per person. */
export function copyText(ordered: readonly PersonLine[], skills: readonly { id: string }[], b: Block): string {
  const lines: string[] = [];
  for (let r = b.top; r <= b.bottom; r++)
    lines.push(
      skills
        .slice(b.left, b.right + 1)
        .map((s) => shownText(ordered[r], s.id))
        .join('\t'),
    );
  return lines.join('\n');
}

const levelOf = (text: string): Level | 'never' | 0 | null => {
  const word = text.trim().toLowerCase();
  if (word === '' || word === '0') return 0;
  if (word === 'n' || word === 'never') return 'never';
  return ['1', '2', '3', '4', '5'].includes(word) ? (Number(word) as Level) : null;
};

/**
 * The cells of a block that differ from a level and may be changed. A cell that shows it already, wherever from,
 * stays as it is.
 */
export function fillBlock(
  ordered: readonly PersonLine[],
  skills: readonly { id: string }[],
  b: Block,
  level: SetLevel['level'],
): SetLevel[] {
  const changes: SetLevel[] = [];
  for (let r = b.top; r <= b.bottom; r++) {
    const person = ordered[r];
    if (!person?.mayChange) continue;
    for (let c = b.left; c <= b.right; c++) {
      const skill = skills[c];
      if (!skill) continue;
      const cell = person.cells[skill.id];
      const own = cell?.from === 'own' ? cell.level : cell?.from === 'never' ? 'never' : 0;
      if (own !== level) changes.push({ personId: person.id, skillId: skill.id, level });
    }
  }
  return changes;
}

/**
 * What pasting a block of text at a place changes: one value fills the whole selection; a cell that already shows a
 * value keeps where it comes from. `odd` counts what was no level.
 */
export function pasteBlock(
  ordered: readonly PersonLine[],
  skills: readonly { id: string }[],
  b: Block,
  text: string,
): { changes: SetLevel[]; odd: number; block: Block } {
  const table = text
    .replace(/\r\n?/g, '\n')
    .replace(/\n$/, '')
    .split('\n')
    .map((line) => line.split('\t'));
  const one = table.length === 1 && table[0]?.length === 1;
  const block: Block = one
    ? b
    : {
        top: b.top,
        left: b.left,
        bottom: Math.min(ordered.length, b.top + table.length) - 1,
        right: Math.min(skills.length, b.left + Math.max(...table.map((t) => t.length))) - 1,
      };
  const changes: SetLevel[] = [];
  let odd = 0;
  for (let r = block.top; r <= block.bottom; r++) {
    for (let c = block.left; c <= block.right; c++) {
      const said = one ? table[0]?.[0] : table[r - b.top]?.[c - b.left];
      const level = said === undefined ? null : levelOf(said);
      if (said === undefined) continue;
      if (level === null) odd++;
      else if (
        shownText(ordered[r], skills[c]?.id ?? '') !== (level === 0 ? '' : level === 'never' ? 'N' : String(level))
      )
        changes.push(...fillBlock(ordered, skills, { top: r, bottom: r, left: c, right: c }, level));
    }
  }
  return { changes, odd, block };
}

/** Copies what the first row of a block shows to the rows below it. */
export function fillDown(ordered: readonly PersonLine[], skills: readonly { id: string }[], b: Block): SetLevel[] {
  return skills.slice(b.left, b.right + 1).flatMap((skill, i) => {
    const level = levelOf(shownText(ordered[b.top], skill.id));
    const column = b.left + i;
    return level === null
      ? []
      : fillBlock(ordered, skills, { top: b.top + 1, bottom: b.bottom, left: column, right: column }, level).filter(
          (change) =>
            shownText(
              ordered.find((p) => p.id === change.personId),
              skill.id,
            ) !== shownText(ordered[b.top], skill.id),
        );
  });
}
