import { keepOutside } from '../data/outside';
import { createHireDesk, type HireDesk } from '../standins/hiredesk';
import { createStandInPost } from '../standins/post';
import { createStandInTelephone } from '../standins/telephone';
import type { Actor } from './actor';
import { createBotAnswers } from './botanswers';
import { createBots } from './bots';
import { createBotParts } from './botparts';
import { createBotTrials } from './bottrials';
import { createBotWorlds } from './botworld';
import type { Outside } from './botrun';
import { createBulk } from './bulk';
import { createCallbacks } from './callbacks';
import { createChannel } from './channel';
import { createConversations } from './conversations';
import { createDemand } from './demand';
import { createDesk } from './desk';
import { createDeskProfiles } from './deskprofiles';
import { createDoors } from './doors';
import { createDuty } from './duty';
import { createFields } from './fields';
import { createFloorView, type StripView } from './floorview';
import { createGroups } from './groups';
import { createHistory } from './history';
import { createHours } from './hours';
import type { Host } from './host';
import { importHere } from './importhere';
import { createImages } from './images';
import { createInvitations } from './invitations';
import { createLevels } from './levels';
import { createLiveFloor } from './livefloor';
import { createMailbox } from './mailbox';
import { createOutcomes } from './outcomes';
import { createSend, type Send } from './outside';
import { createPrograms } from './programs';
import { createPhrasebook } from './phrasebook';
import { createPeople } from './people';
import { createPeopleFilters } from './peoplefilters';
import { createPeopleImport, type ImportRunner } from './peopleimport';
import { createQueueFixes } from './queuefixes';
import { createQueues } from './queues';
import { createReach } from './reach';
import { createReadiness } from './readiness';
import { createReview } from './review';
import { createRoles } from './roles';
import { createSearch } from './search';
import { createShifts } from './shifts';
import { createSignIn } from './signin';
import { createTeams } from './teams';
import { createTimers } from './timers';
import { createToFix } from './tofix';

export type ServiceOptions = {
  /** How fast the floor's clock runs. */
  readonly rate?: () => number;
  /** Makes a path of this server a link that can be sent by mail. */
  readonly linkTo?: (path: string) => string;
  readonly importRunner?: ImportRunner;
  /** How real hosts are asked. */
  readonly send?: Send;
  readonly hireDesk?: HireDesk;
};

/** Each part of what the product does, knowing only the parts it stands on. */
export function createParts(
  host: Host,
  {
    rate = () => 1,
    linkTo = (path) => path,
    importRunner = importHere,
    send = createSend(),
    hireDesk = createHireDesk(),
  }: ServiceOptions,
) {
  const post = createStandInPost((posted) =>
    host.transact((tx) => keepOutside(tx.db, { ...posted, realAt: tx.realAt })),
  );
  const floor = createLiveFloor(host);
  const callbacks = createCallbacks(host, floor);
  const programs = createPrograms(host);
  const botAnswers = createBotAnswers(host, floor);
  const outside: Outside = { hireDesk, send, post };
  const conversations = createConversations(host, floor, callbacks, programs, botAnswers, outside);
  const worlds = createBotWorlds(host, floor);
  const phrasebook = createPhrasebook(host, programs);
  const [botParts, fields] = [createBotParts(host, worlds, outside), createFields(host, floor)] as const;
  const botTrials = createBotTrials(host, floor, programs, botAnswers, outside);
  const bots = createBots(host, programs, worlds, botTrials);
  const readiness = createReadiness(host, floor);
  const demand = createDemand(host);
  const levels = createLevels(host, floor);
  const people = createPeople(host, floor, conversations, readiness, demand);
  const invitations = createInvitations(host, post, linkTo);
  const [teams, duty, shifts, roles, deskProfiles] = [
    createTeams(host, floor),
    createDuty(host, floor),
    createShifts(host, demand),
    createRoles(host),
    createDeskProfiles(host),
  ] as const;
  const reach = createReach(host, post);
  const [queues, groups, outcomes, hours] = [
    createQueues(host, floor),
    createGroups(host, floor),
    createOutcomes(host),
    createHours(host, floor),
  ] as const;
  const queueFixes = createQueueFixes(host, floor, queues, groups);
  const toFix = createToFix(host, readiness, queueFixes, bots);
  const floorView = createFloorView(host, floor, bots.drafts, rate);
  return {
    host,
    floor,
    conversations,
    people,
    levels,
    peopleFilters: createPeopleFilters(host),
    readiness,
    invitations,
    teams,
    duty,
    shifts,
    roles,
    deskProfiles,
    reach,
    toFix,
    floorView,
    signIn: createSignIn(host),
    callbacks,
    queueFixes,
    channel: createChannel(host, conversations, callbacks),
    desk: createDesk(host, floor, conversations, deskProfiles, callbacks),
    timers: createTimers(host, floor, conversations, callbacks, bots, createStandInTelephone()),
    peopleImport: createPeopleImport(host, floor, people, levels, invitations, importRunner),
    bulk: createBulk(host, floor, people, levels),
    mailbox: createMailbox(host),
    history: createHistory(host, {
      ...people.kept,
      ...levels.kept,
      ...teams.kept,
      ...duty.kept,
      ...shifts.kept,
      ...roles.kept,
      ...deskProfiles.kept,
      ...queues.kept,
      ...groups.kept,
      ...outcomes.kept,
      ...hours.kept,
      ...botTrials.kept,
      ...botParts.kept,
      ...fields.kept,
      ...phrasebook.kept,
    }),
    queues,
    groups,
    outcomes,
    hours,
    doors: createDoors(host),
    bots,
    botTrials,
    worlds,
    programs,
    phrasebook,
    botParts,
    fields,
    images: createImages(host),
    review: createReview(host),
    search: createSearch(host),
    /** What the lane's strip shows: the floor's figures and how many people no contact can reach. */
    strip: (actor: Actor): StripView & { readonly toFix: number } => ({
      ...floorView.strip(actor),
      toFix: toFix.count(actor),
    }),
  };
}
export type Parts = ReturnType<typeof createParts>;
