import { deflateRawSync, inflateRawSync, type ZlibOptions } from 'node:zlib';

/**
 * Text that is kept deflated (RFC 1951), each with a dictionary of what such texts have in common. The first byte names
 * the dictionary. One is never changed or dropped, since what was kept with it must be read for as long as it is kept:
 * another takes another number. They hold words of the format and made-up sentences, nothing that anybody said.
 */
const DICTIONARIES: Readonly<Record<number, Buffer>> = {
  // Trails.
  1: Buffer.from(
    ',"groupId":null,"limits":{"lacking":{"skill_":[{"refused":[{"held":[{"left-unasked":[{"took-another":[' +
      '{"offer-pending":[{"unreachable":[{"channel-off":[{"not-yet":[{"limit":[{"away":[{"later-in-order":[{"load":[' +
      '{"channel-most":[{"skill":[{"not-in-duty":[{"off-duty":[1,1,1,2,1,1,3,1,2,1],"chosen":null,"rank":null,"decidedBy":' +
      'null,"levelSum":null"kind":"end"{"kind":"stage","at":179{"kind":"entry","at":179{"kind":"offer","at":179,' +
      '"settingsVersion":1,"waitedSeconds":0,"stage":1,"asked":1,"able":1,"chosen":1,"rank":1,"decidedBy":"longest-idle"' +
      ',"decidedBy":"highest-level","decidedBy":"only-one","levelSum":2,"others":{"not-in-duty":[1,1,2,1,1],"off-duty":[',
  ),
  // A contact's whole life.
  2: Buffer.from(
    'Sorry, I did not catch that. Please say it again. Are you still there? Somebody will be with you soon; the wait is ' +
      'about a few minutes. Thank you for calling. One moment, I am finding the right person. Is there anything else? ' +
      'Could you tell me your number, please? That is all, thank you. Good morning, this is the front desk; how can I ' +
      'help? Press 1 to keep waiting, press 2 to be called back. Perdone, ¿en qué puedo ayudarle? Un momento, por favor. ' +
      'Bonjour, un instant s’il vous plaît. Merci. ⟦private:private_⟧' +
      '{"key":"1","label":"{"key":"2","label":"},{"key":"3","label":"}],"because":"the bot handed over"the bot failed: ' +
      '"not-in-duty":[1,1,2,1,1],"off-duty":[1,1,1,2],"channel-most":["skill":[1,1],"load":[1],"later-in-order":[' +
      '{"kind":"offer","at":179,"settingsVersion":1,"waitedSeconds":0,"stage":1,"asked":1,"able":1,"chosen":1,"rank":1,' +
      '"decidedBy":"longest-idle","decidedBy":"only-one","levelSum":2,"groupId":null,"others":{"lacking":{"skill_' +
      '["contact_","door_","chat","voice","sms","messaging","customer_","en","bot_",1],["customer"],["bot",null,"' +
      '["person","person_"],["line","choice",true,{"id":"intent_","confidence":0.9}],["handed-over","line",null,["' +
      '["visit_","queue_","chat",1,179,[{"skillId":"skill_","atLeast":2}],0,30,"the bot handed over",1,[],[],null,false],' +
      '["visit_","offer_","person_",179],["visit_","offer_","person_","accepted"],["visit_","leg_","person_",null,false],' +
      '["visit_","accepted"],["leg_","person_",false],["leg_","person_","DONE",180],["person"],null,2,0,0,2,',
  ),
};
export type DictionaryNo = 1 | 2;

/** A window and a buffer no larger than what is deflated needs: large ones cost more to begin than they save. */
const HOW: Readonly<Record<DictionaryNo, ZlibOptions>> = {
  1: { level: 6, windowBits: 11, memLevel: 4, chunkSize: 1024 },
  2: { level: 9, windowBits: 14, memLevel: 8 },
};

export const deflated = (text: string, dictionary: DictionaryNo): Buffer =>
  Buffer.concat([
    Buffer.of(dictionary),
    deflateRawSync(text, { ...HOW[dictionary], dictionary: DICTIONARIES[dictionary] }),
  ]);

/** Throws RangeError where the dictionary is not known, and what zlib throws where the bytes are damaged. */
export function inflated(kept: Buffer): string {
  const dictionary = DICTIONARIES[kept[0] ?? 0];
  if (!dictionary)
    throw new RangeError(`this was kept with dictionary ${kept[0] ?? 'none'}, which this code does not know`);
  return inflateRawSync(kept.subarray(1), { dictionary }).toString('utf8');
}
