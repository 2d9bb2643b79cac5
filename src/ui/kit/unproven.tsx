import { Pill } from './panel';

/** Beside a customer whose address nobody vouches for: a browser only says who it is. */
export const Unproven = ({ vouched }: { vouched: boolean }) =>
  vouched ? null : (
    <span title="Nobody vouches for who this is: a browser, or a channel that could not tell, only says so.">
      <Pill tone="warn">unproven</Pill>
    </span>
  );
