import { bind } from '../ground/bind';
import { botFileOf, bringInBot, checkBot, mendBot, saveBot } from './botdrafts';
import { callOff, goesLive, goLive, publishBot } from './botversions';
import {
  allBotFaults,
  type BotsDeps,
  draftsThatDiffer,
  endingsOfBot,
  listBots,
  surroundingsOf,
  versionScript,
  viewBot,
  viewBotTraffic,
} from './botviews';

export type Bots = ReturnType<typeof createBots>;

export const createBots = (deps: BotsDeps) => ({
  goesLive,
  ...bind(deps, {
    list: listBots,
    around: surroundingsOf,
    view: viewBot,
    traffic: viewBotTraffic,
    endings: endingsOfBot,
    drafts: draftsThatDiffer,
    allFaults: allBotFaults,
    save: saveBot,
    file: botFileOf,
    bringIn: bringInBot,
    check: checkBot,
    mend: mendBot,
    publish: publishBot,
    goLive,
    callOff,
    versionScript,
  }),
});
