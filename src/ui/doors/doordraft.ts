import type { Channel } from '@/core/channels';
import type { Meets, WhenClosed } from '@/core/doors/doorway';
import type { DoorLine } from '@/services/doors/doors';
import { wholeShape } from '../drafts/usegathered';

export type Draft = {
  id: string | null;
  revision: number;
  name: string;
  channel: Channel;
  address: string;
  hoursId: string;
  botId: string;
  languages: string[];
  closedWording: Record<string, string>;
  trial: DoorLine['trial'];
  whenClosed: WhenClosed;
  meets: Meets;
};

export const DOOR_SHAPE = { ...wholeShape<Draft>(), namesake: true };

export const draftOf = (door: DoorLine): Draft => ({
  id: door.id,
  revision: door.revision,
  name: door.name,
  channel: door.channel,
  address: door.address,
  hoursId: door.hoursId,
  botId: door.botId,
  languages: [...door.languages],
  closedWording: { ...door.closedWording },
  trial: door.trial,
  whenClosed: door.whenClosed,
  meets: door.meets,
});
