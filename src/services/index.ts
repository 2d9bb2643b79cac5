import { createBots } from './bots';
import { createChannel } from './channel';
import { createConversations } from './conversations';
import { createDesk } from './desk';
import { createDoors } from './doors';
import { createFloorView } from './floorview';
import type { Host } from './host';
import { createLiveFloor } from './livefloor';
import { createPeople } from './people';
import { createQueues } from './queues';
import { createReview } from './review';
import { createSearch } from './search';
import { createSignIn } from './signin';
import { createTimers } from './timers';

/** Everything the product does, over one host. `rate` is how fast the floor's clock runs. */
export function createServices(host: Host, rate: () => number = () => 1) {
  const floor = createLiveFloor(host);
  const conversations = createConversations(host, floor);
  return {
    host, floor, conversations,
    signIn: createSignIn(host), channel: createChannel(host, conversations), desk: createDesk(host, floor, conversations), timers: createTimers(host, floor, conversations),
    people: createPeople(host, floor), queues: createQueues(host, floor), doors: createDoors(host), bots: createBots(host, floor),
    floorView: createFloorView(host, floor, rate), review: createReview(host), search: createSearch(host),
  };
}
export type Services = ReturnType<typeof createServices>;
