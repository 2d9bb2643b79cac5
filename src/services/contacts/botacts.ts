import type { BotAct, BotState } from '../../core/bots/conversation';
import type { Program } from '../../core/bots/program';
import { type Contact, readContact } from '../../data/contacts';
import { readCustomer } from '../../data/customers';
import { keepLaterText } from '../../data/latertexts';
import { readQueues } from '../../data/queuesettings';
import { passField, writeValue } from '../../data/values';
import type { Ready } from '../bots/programs';
import type { Tx } from '../ground/host';
import { type BotRunDeps, fieldNamed, isPrivate } from './botplace';
import { withTokens } from './privatevalues';

export function carryOut(deps: BotRunDeps, tx: Tx, contact: Contact, ready: Ready, act: BotAct, state: BotState): void {
  switch (act.type) {
    case 'say':
      deps.hands.botSays(tx, contact.id, withTokens(tx.db, contact.id, act.text), {
        lineId: act.lineId,
        options: act.options,
        ssml: act.ssml === null ? null : withTokens(tx.db, contact.id, act.ssml),
        mayInterrupt: act.mayInterrupt,
        image: act.image,
      });
      break;
    case 'heard':
      tx.emit({
        type: 'bot.heard',
        contactId: contact.id,
        lineId: act.lineId,
        choiceId: act.choiceId,
        understood: act.understood,
        intent: act.intent,
      });
      break;
    case 'remember':
      if (act.scope === 'scene' && !fieldNamed(deps, act.name)) break;
      if (!isPrivate(deps, act.name))
        writeValue(tx.db, contact.id, act.name, withTokens(tx.db, contact.id, String(act.value)));
      tx.emit({ type: 'value.set', contactId: contact.id, name: act.name });
      break;
    case 'language':
      tx.emit({ type: 'contact.language', contactId: contact.id, language: act.language });
      break;
    case 'text': {
      const own =
        contact.channel === 'voice' || contact.channel === 'sms'
          ? readCustomer(tx.db, contact.customerId)?.address
          : undefined;
      const address = act.to ?? own ?? '';
      const sent = /^\+?[\d ()-]{6,20}$/.test(address);
      if (sent && act.when === 'now') deps.outside.post.text(address, act.text);
      else if (sent) keepLaterText(tx.db, contact.id, address, act.text);
      tx.emit({ type: 'bot.texted', contactId: contact.id, lineId: act.lineId, when: act.when, sent });
      break;
    }
    case 'message':
      deps.hands.leaveMessage(
        tx,
        contact,
        queueAt(deps, ready.program, act.queueId),
        withTokens(tx.db, contact.id, act.text),
      );
      break;
    case 'hand-over': {
      const { target } = act;
      for (const name of act.because === null ? act.fields : Object.keys(state.values))
        passField(tx.db, contact.id, name);
      tx.emit({
        type: 'bot.finished',
        contactId: contact.id,
        lineId: act.lineId,
        how: act.because === null ? 'handed-over' : 'failed',
        because: act.because,
        path: state.path,
      });
      deps.floor.enter(tx, {
        contactId: contact.id,
        queueId: queueAt(deps, ready.program, act.queueId),
        placedAt: tx.floorAt,
        handOver: act.needs,
        priority: act.priority,
        personId: act.personId,
        opens:
          target.to === 'group'
            ? { to: 'group', groupId: target.groupId }
            : target.to === 'partner'
              ? { to: 'partner', partnerId: target.partnerId }
              : null,
        because: act.because === null ? 'the bot handed over' : `the bot failed: ${act.because}`,
      });
      break;
    }
    case 'end':
      if (readContact(tx.db, contact.id)?.endedAt !== null) break;
      tx.emit({
        type: 'bot.finished',
        contactId: contact.id,
        lineId: act.lineId,
        how: act.how,
        because: null,
        path: state.path,
      });
      tx.emit({ type: 'contact.ended', contactId: contact.id, how: act.how === 'ended' ? 'bot' : 'went-quiet' });
      break;
    case 'request':
    case 'wait':
      break;
  }
}

/** A queue that is there: the one meant, else the script's fallback, else any; nobody is dropped in silence. */
function queueAt({ host }: BotRunDeps, program: Program, queueId: string): string {
  const there = host.remembered('queues', readQueues);
  return (
    [queueId, program.script.fallbackQueueId].find((id) => there.some((q) => q.id === id)) ?? there[0]?.id ?? queueId
  );
}
