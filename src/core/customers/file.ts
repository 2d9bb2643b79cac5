import type { Channel } from '../channels';
import type { TiedHow } from './joining';

/** All that is kept of one customer, as it is given to them (docs/formats/customer.schema.json). Instants are ISO 8601. */
export type CustomerFile = {
  readonly format: 'usher-lane-customer';
  readonly version: 1;
  readonly name: string | null;
  readonly language: string | null;
  readonly knownBy: readonly {
    readonly channel: Channel;
    readonly address: string;
    readonly name: string | null;
    /** Whether the channel stands in for the address being theirs. */ readonly proven: boolean;
  }[];
  readonly joined: readonly { readonly how: TiedHow; readonly at: string }[];
  readonly notes: readonly { readonly words: string; readonly at: string }[];
  readonly contacts: readonly {
    readonly id: string;
    readonly channel: Channel;
    readonly door: string;
    readonly startedAt: string;
    readonly endedAt: string | null;
    readonly fields: readonly { readonly label: string; readonly value: string }[];
    readonly messages: readonly {
      readonly from: 'customer' | 'bot' | 'person';
      readonly at: string;
      readonly text: string;
    }[];
  }[];
};
