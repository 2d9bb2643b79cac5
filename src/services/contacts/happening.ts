import type { Heard } from '../../core/bots/program';
import type { ContactEvent } from '../../core/contact/events';
import type { Act, RouterEvent } from '../../core/routing/acts';
import type { OutsideTelephone } from '../../standins/telephone';
import type { Outside } from '../bots/outside';
import type { Hearing } from '../bots/understanding';
import type { Tx } from '../ground/host';
import type { Outbox } from '../ground/outbox';
import type { ContactDeps } from './contactnow';

/** How what one act calls for comes to the contact, to the floor, and to the world outside. */
export type Happening = {
  readonly happen: (tx: Tx, contactId: string, event: ContactEvent) => void;
  readonly advances: (tx: Tx, event: RouterEvent) => readonly Act[];
  /** Asks what stands in the outbox. */
  readonly sendAsk: (id: number) => void;
  /** Asks what a customer's words mean. */
  readonly hear: (contactId: string, number: number, heard: Heard) => void;
};

/** What carrying out acts rests on. */
export type Hands = ContactDeps &
  Happening & {
    readonly outbox: Outbox;
    readonly outside: Pick<Outside, 'system' | 'send'>;
    readonly hearing: Hearing;
    readonly telephone: OutsideTelephone;
    /** What is remembered of people's numbers in trails may have been undone. */
    readonly forgetTrailPeople: () => void;
  };
