import type { ContactView } from '@/services/floor/contactview';
import { asDayTime } from '../kit/figures';

/** What was rung outside for a visit: which desk, by which of its numbers, and what came of it. */
export const Rung = ({ calls, zone }: { calls: ContactView['visits'][number]['rung']; zone: string }) => (
  <ul className="text-small">
    {calls.map((call) => (
      <li key={call.id} className="mt-1 border-l-3 border-rule-strong pl-2">
        {call.desk}, {call.number} was rung
        <span className="block text-tiny text-ink-2">
          {asDayTime(call.at, zone)} · {call.came}
        </span>
      </li>
    ))}
  </ul>
);
