import { CHANNELS, type Channel } from '../channels';
import { FULL, type LoadRules } from './load';

/** The plain questions behind the load rules: how many of each at once, and how many SMS beside a call. */
export type LoadAnswers = { readonly atOnce: Readonly<Record<Channel, number>>; readonly smsDuringCall: number };

/**
 * Load rules that say what the answers say: n of one kind fill a person, so one costs ⌊100 / n⌋; a call costs what n
 * SMS beside it leave. Where nothing of a kind is taken its cost is 100, so that switching it on later starts
 * careful.
 */
export function rulesFromAnswers({ atOnce, smsDuringCall }: LoadAnswers): LoadRules {
  const cost = (n: number) => (n < 1 ? FULL : Math.floor(FULL / n));
  const sms = cost(atOnce.sms);
  const rules = { voice: FULL, chat: cost(atOnce.chat), messaging: cost(atOnce.messaging), sms };
  if (atOnce.voice > 1) rules.voice = cost(atOnce.voice);
  if (smsDuringCall > 0) rules.voice = Math.max(0, Math.min(rules.voice, FULL - sms * smsDuringCall));
  return {
    voice: { cost: rules.voice, most: atOnce.voice },
    chat: { cost: rules.chat, most: atOnce.chat },
    messaging: { cost: rules.messaging, most: atOnce.messaging },
    sms: { cost: rules.sms, most: atOnce.sms },
  };
}

/** What the rules answer: how many of a kind fit alone, and how many SMS fit beside one call. */
export function answersFrom(rules: LoadRules): LoadAnswers {
  const fits = (channel: Channel) =>
    Math.min(
      rules[channel].most,
      rules[channel].cost === 0 ? rules[channel].most : Math.floor(FULL / rules[channel].cost),
    );
  const beside =
    rules.voice.most === 0
      ? 0
      : Math.min(
          rules.sms.most,
          rules.sms.cost === 0 ? rules.sms.most : Math.floor((FULL - rules.voice.cost) / rules.sms.cost),
        );
  return {
    atOnce: { voice: fits('voice'), chat: fits('chat'), messaging: fits('messaging'), sms: fits('sms') },
    smsDuringCall: Math.max(0, beside),
  };
}

export type Mix = Readonly<Record<Channel, number>>;
/**
 * Loads that fill a person as far as the rules let them: each kind alone, then each kind beside one of another,
 * largest first.
 */
export function fullMixes(rules: LoadRules): Mix[] {
  const mixes = new Map<string, Mix>();
  for (const first of [null, ...CHANNELS]) {
    for (const second of CHANNELS) {
      if (first === second || rules[second].most === 0 || (first !== null && rules[first].most === 0)) continue;
      const used = first === null ? 0 : rules[first].cost;
      const { cost, most } = rules[second];
      const n = Math.min(most, cost === 0 ? most : Math.floor((FULL - used) / cost));
      if (n < 1) continue;
      const mix: Mix = {
        voice: 0,
        chat: 0,
        messaging: 0,
        sms: 0,
        ...(first === null ? {} : { [first]: 1 }),
        [second]: n,
      };
      mixes.set(CHANNELS.map((c) => mix[c]).join(','), mix);
    }
  }
  return [...mixes.values()];
}
