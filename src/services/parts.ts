import { randomBytes } from 'node:crypto';
import { type Heavy, heavyHere } from '../core/heavy';
import { UNDERSTANDING } from '../data/meaning';
import { recentTrouble } from '../data/storage';
import { isAllowedHost } from '../data/connectors';
import { keepOutside } from '../data/outside';
import { NO_SYSTEM, type StandInSystem } from '../standins/system';
import { createStandInPost, type Post } from '../standins/post';
import { createStandInTelephone, type OutsideTelephone } from '../standins/telephone';
import { createBotParts } from './bots/botparts';
import { createBots } from './bots/bots';
import { createBotTrials } from './bots/bottrials';
import { createBotWorlds } from './bots/botworld';
import { createFields } from './bots/fields';
import { createImages } from './bots/images';
import { createRecordings } from './bots/recordings';
import { createSend, onlyAllowed, type Send } from './bots/outside';
import { createLearner } from './bots/learner';
import { createPhrasebook } from './bots/phrasebook';
import { createCustomers } from './customers/changing';
import { createErasing } from './customers/erasing';
import { createSaidToBot } from './bots/saidtobot';
import { createTeaching } from './bots/teaching';
import { createPrograms } from './bots/programs';
import { type Hearing, hearingHere } from './bots/understanding';
import { createBotAnswers } from './contacts/botanswers';
import { createCallbacks } from './contacts/callbacks';
import { createChannel } from './contacts/channel';
import { createContacts } from './contacts/contacts';
import { createDispatcher } from './contacts/dispatcher';
import { createRouterHere } from './contacts/routerhere';
import { createOutbox } from './ground/outbox';
import type { Outside } from './bots/outside';
import { createCoaching } from './coaching/coaching';
import { createAsks } from './contacts/asks';
import { resumeHearing } from './contacts/hears';
import { createDesk } from './contacts/desk';
import { createInFront } from './contacts/infront';
import { createLiveFloor } from './contacts/livefloor';
import { createPacking } from './contacts/packing';
import { createNewContactLimit } from './contacts/speaker';
import { createTimers } from './contacts/timers';
import { createDoors } from './doors/doors';
import { createDrafts } from './drafts/drafts';
import { type Ahead, createPlans } from './drafts/plans';
import { createHours } from './doors/hours';
import { createFloorView } from './floor/floorview';
import type { StripView } from './floor/strip';
import type { Actor } from './ground/actor';
import type { Host } from './ground/host';
import { type Seal, sealWith } from './ground/tokens';
import { createBulk } from './people/bulk';
import { createDemand } from './people/demand';
import { createDeskProfiles } from './people/deskprofiles';
import { createDuty } from './people/duty';
import { createQueueSide } from './people/queueside';
import { createInvitations } from './people/invitations';
import { createLevels } from './people/levels';
import { createPeople } from './people/people';
import { createPeopleFilters } from './people/peoplefilters';
import { createPeopleImport } from './people/peopleimport';
import { createReach } from './people/reach';
import { createReadiness } from './people/readiness';
import { createRoles } from './people/roles';
import { createShifts } from './people/shifts';
import { createTeams } from './people/teams';
import { createGroups } from './queues/groups';
import { createOutcomes } from './queues/outcomes';
import { createQueueFixes } from './queues/queuefixes';
import { type Reading, readingHere } from './readings';
import { createQueues } from './queues/queues';
import { createDayKeeper } from './review/keepdays';
import { createReview } from './review/review';
import { createPast } from './past/past';
import { createPresses } from './ground/presses';
import { createRemoving } from './removing/removing';
import { createWords, undoableWords } from './words/words';
import { createHistory } from './workspace/undopress';
import { createMailbox } from './workspace/mailbox';
import { createSearch } from './workspace/search';
import { createSetAside } from './workspace/setaside';
import { createFirstStart } from './workspace/firststart';
import { createNewPassword } from './workspace/newpassword';
import { createSessions } from './workspace/sessions';
import { createSignIn } from './workspace/signin';
import { createToFix } from './workspace/tofix';

export type ServiceOptions = {
  /** How fast the floor's clock runs. */
  readonly rate?: () => number;
  /** Makes a path of this server a link that can be sent by mail. */
  readonly linkTo?: (path: string) => string;
  /** Where heavy work is done. */
  readonly heavy?: Heavy;
  /** Who understands customers' words. */
  readonly hearing?: Hearing;
  /** Where what takes long is read. */
  readonly reading?: Reading;
  /** How planned changes are tried over a copy of the settings. */
  readonly ahead?: Ahead;
  /** How real hosts are asked. */
  readonly send?: Send;
  /** Makes this server's tokens; without a key of its own, they work until it stops. */
  readonly seal?: Seal;
  /** The outside telephone network, and what takes mail, texts and calls. */
  readonly telephone?: OutsideTelephone;
  readonly post?: Post;
  /** Takes out of the database's write-ahead log what stands in the database by now. */
  readonly emptyLog?: () => void;
  /** The company's own system, simulated, where one is registered. */
  readonly system?: StandInSystem;
};

/** Each part of what the product does, knowing only the parts it stands on. */
export function createParts(
  host: Host,
  {
    rate = () => 1,
    linkTo = (path) => path,
    heavy = heavyHere(UNDERSTANDING),
    hearing = hearingHere(() => host.db),
    reading = readingHere(host),
    emptyLog = () => undefined,
    ahead,
    send = createSend(),
    system = NO_SYSTEM,
    seal = sealWith(randomBytes(32)),
    telephone = createStandInTelephone(),
    post = createStandInPost((posted) => host.transact((tx) => keepOutside(tx.db, { ...posted, realAt: tx.realAt }))),
  }: ServiceOptions & { readonly ahead: Ahead },
) {
  const outbox = createOutbox({ host, post });
  const sessions = createSessions(host);
  const here = createRouterHere(host);
  const programs = createPrograms(host);
  const answers = createBotAnswers({ host, here, hearing });
  const outside: Outside = {
    system,
    send: onlyAllowed(send, (asked) => isAllowedHost(host.db, asked)),
    post,
  };
  const inFront = createInFront(host);
  const dispatcher = createDispatcher({
    host,
    here,
    programs,
    answers,
    inFront,
    outbox,
    outside,
    telephone,
    hearing,
  });
  const { happen } = dispatcher;
  const floor = createLiveFloor(host, here, dispatcher);
  const contacts = createContacts({ host, programs, happen });
  const callbacks = createCallbacks({ host, happen });
  const worlds = createBotWorlds({ host, floor });
  const learner = createLearner({ host, heavy });
  const customers = createCustomers({ host });
  const erasing = createErasing({ host, heavy, learner, emptyLog });
  const book = { host, hearing, heavy, learner };
  const [phrasebook, teaching] = [createPhrasebook(book), createTeaching(book)] as const;
  const [botParts, fields] = [createBotParts({ host, worlds, outside, heavy }), createFields({ host, floor })] as const;
  const botTrials = createBotTrials({ host, floor, programs, answers, outside, hearing });
  const bots = createBots({ host, programs, worlds, trials: botTrials, reading });
  const readiness = createReadiness({ host, floor });
  const demand = createDemand(host);
  const levels = createLevels({ host, floor });
  const people = createPeople({ host, floor, contacts, readiness, demand });
  const invitations = createInvitations({ host, outbox, linkTo });
  const [teams, duty, queueSide, shifts, roles, deskProfiles] = [
    createTeams({ host, floor }),
    createDuty({ host, floor }),
    createQueueSide({ host, floor }),
    createShifts({ host, demand, heavy }),
    createRoles({ host }),
    createDeskProfiles({ host }),
  ] as const;
  const reach = createReach({ host, outbox });
  const [queues, groups, outcomes, hours] = [
    createQueues({ host, floor }),
    createGroups({ host, floor }),
    createOutcomes({ host }),
    createHours({ host, floor, heavy }),
  ] as const;
  const queueFixes = createQueueFixes({ host, floor, queues, groups });
  const [review, coaching] = [createReview({ host, reading, outbox, linkTo }), createCoaching(host, reading)] as const;
  const doors = createDoors({ host });
  const recordings = createRecordings({ host });
  const plans = createPlans({ host, ahead, by: { queues, groups, hours, doors, duty, roles } });
  const timers = createTimers({ host, floor, dispatcher, outbox, bots, review, plans });
  const setAside = createSetAside({ host, timers });
  const toFix = createToFix({ host, readiness, queueFixes, bots, setAside, reading });
  const floorView = createFloorView({ host, floor, drafts: bots.drafts, rate });
  const removing = createRemoving({ host, floor, reading });
  const undoable = {
    ...removing.undoable,
    ...people.undoable,
    ...levels.undoable,
    ...teams.undoable,
    ...duty.undoable,
    ...queueSide.undoable,
    ...shifts.undoable,
    ...roles.undoable,
    ...deskProfiles.undoable,
    ...queues.undoable,
    ...groups.undoable,
    ...outcomes.undoable,
    ...doors.undoable,
    ...recordings.undoable,
    ...hours.undoable,
    ...botTrials.undoable,
    ...botParts.undoable,
    ...fields.undoable,
    ...phrasebook.undoable,
    ...coaching.undoable,
    ...review.undoable,
    ...undoableWords(worlds),
  };
  const presses = createPresses(host, {
    ...undoable,
    invite: { restore: (tx, _actor, personId) => invitations.invite(tx, personId) },
  });
  return {
    host,
    floor,
    presses,
    reading,
    contacts,
    packing: createPacking(host),
    outbox,
    asks: createAsks(dispatcher.asks),
    resumeHearing: () => resumeHearing(dispatcher.hears),
    people,
    levels,
    peopleFilters: createPeopleFilters({ host }),
    readiness,
    invitations,
    teams,
    duty,
    queueSide,
    shifts,
    roles,
    deskProfiles,
    reach,
    toFix,
    floorView,
    sessions,
    signIn: createSignIn({ host, sessions, seal }),
    newPassword: createNewPassword({ host, outbox, sessions, linkTo }),
    firstStart: createFirstStart({ host, floor }),
    callbacks,
    queueFixes,
    channel: createChannel({
      host,
      here,
      contacts,
      callbacks,
      seal,
      turnAway: customers.turnAway,
      limitNew: createNewContactLimit(),
    }),
    inFront,
    desk: createDesk({ host, inFront, floor, contacts, desks: deskProfiles, callbacks }),
    timers,
    setAside,
    peopleImport: createPeopleImport({
      host,
      presses,
      heavy,
      jobs: new Map(),
    }),
    bulk: createBulk({ host, floor, people, levels }),
    mailbox: createMailbox({ host }),
    history: createHistory({ host, presses, reading, undoable }),
    drafts: createDrafts({ host }),
    removing,
    plans,
    queues,
    groups,
    outcomes,
    hours,
    doors,
    bots,
    botTrials,
    worlds,
    programs,
    learner,
    customers,
    erasing,
    saidToBot: createSaidToBot({ host }),
    phrasebook,
    teaching,
    botParts,
    fields,
    images: createImages({ host }),
    recordings,
    review,
    past: createPast(host, reading),
    coaching,
    dayKeeper: createDayKeeper(host, reading),
    words: createWords({ host, worlds, undoable, presses, reading, phrasebook }),
    search: createSearch({ host }),
    /** What kept data from being read or kept within the last minute, in a sentence. */
    trouble: (): string | null => recentTrouble(60_000),
    /** What the lane's strip shows: the floor's figures and how many people no contact can reach. */
    strip: (actor: Actor): StripView & { readonly toFix: number } => ({
      ...floorView.strip(actor),
      toFix: toFix.count(actor),
    }),
  };
}
export type Parts = ReturnType<typeof createParts>;
