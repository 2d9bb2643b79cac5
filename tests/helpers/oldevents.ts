import type { EventBody } from '../../src/core/events';

/**
 * One event of each type as each version kept it, and what it says. They are examples for good: a line is never changed,
 * and a new version adds a column.
 */
export type OldEvent = {
  readonly says: EventBody;
  readonly code: number;
  /** The body as version 1 and as version 2 kept it. */
  readonly first: string;
  readonly second: string | null;
};
const c = 'contact_0yek0289g28g';

export const OLD_EVENTS: readonly OldEvent[] = [
  {
    says: {
      type: 'contact.started',
      contactId: c,
      doorId: 'door_evening',
      channel: 'messaging',
      customerId: 'customer_49wd',
      language: 'en',
      botId: 'bot_evening',
      botVersion: 1,
    },
    code: 1,
    first: `{"type":"contact.started","contactId":"${c}","doorId":"door_evening","channel":"messaging","customerId":"customer_49wd","language":"en","botId":"bot_evening","botVersion":1}`,
    second: `["${c}","door_evening","messaging","customer_49wd","en","bot_evening",1]`,
  },
  {
    says: { type: 'message.written', contactId: c, from: 'bot', personId: null, lineId: 'v_w1' },
    code: 2,
    first: `{"type":"message.written","contactId":"${c}","messageId":"message_3nswmj5ac9md","from":"bot","personId":null,"lineId":"v_w1"}`,
    second: '["bot",null,"v_w1"]',
  },
  {
    says: {
      type: 'bot.heard',
      contactId: c,
      lineId: 'c_w2',
      choiceId: 'delivery',
      understood: true,
      intent: { id: 'delivery', confidence: 0.45 },
    },
    code: 3,
    first: `{"type":"bot.heard","contactId":"${c}","lineId":"c_w2","choiceId":"delivery","understood":true,"intent":{"id":"delivery","confidence":0.45}}`,
    second: '["c_w2","delivery",true,{"id":"delivery","confidence":0.45}]',
  },
  {
    says: { type: 'bot.asked', contactId: c, number: 1, connectorId: 'connector_delivery' },
    code: 4,
    first: `{"type":"bot.asked","contactId":"${c}","number":1,"connectorId":"connector_delivery"}`,
    second: '[1,"connector_delivery"]',
  },
  {
    says: { type: 'bot.texted', contactId: c, lineId: 'r_c6', when: 'after', sent: false },
    code: 5,
    first: `{"type":"bot.texted","contactId":"${c}","lineId":"r_c6","when":"after","sent":false}`,
    second: '["r_c6","after",false]',
  },
  {
    says: { type: 'contact.language', contactId: c, language: 'es' },
    code: 6,
    first: `{"type":"contact.language","contactId":"${c}","language":"es"}`,
    second: '["es"]',
  },
  {
    says: { type: 'value.set', contactId: c, name: 'hire number' },
    code: 7,
    first: `{"type":"value.set","contactId":"${c}","name":"hire number"}`,
    second: '["hire number"]',
  },
  {
    says: { type: 'bot.started', contactId: c, botId: 'bot_evening', botVersion: 2 },
    code: 8,
    first: `{"type":"bot.started","contactId":"${c}","botId":"bot_evening","botVersion":2}`,
    second: '["bot_evening",2]',
  },
  {
    says: { type: 'bot.mended', contactId: c, botVersion: 3 },
    code: 32,
    first: `{"type":"bot.mended","contactId":"${c}","botVersion":3}`,
    second: '[3]',
  },
  {
    says: {
      type: 'bot.finished',
      contactId: c,
      lineId: null,
      how: 'handed-over',
      because: null,
      path: ['v_w2>english', 'v_q1>repair'],
    },
    code: 9,
    first: `{"type":"bot.finished","contactId":"${c}","lineId":null,"how":"handed-over","because":null,"path":["v_w2>english","v_q1>repair"]}`,
    second: '["handed-over",null,null,["v_w2>english","v_q1>repair"]]',
  },
  {
    says: {
      type: 'visit.began',
      contactId: c,
      visitId: 'visit_9bwe',
      queueId: 'queue_schools',
      channel: 'voice',
      settingsVersion: 8,
      placedAt: 1795622529168,
      needs: [{ skillId: 'skill_schools', atLeast: 3 }],
      priority: 0,
      goalSeconds: 60,
      because: 'the bot handed over',
      entry: 4137,
      handOver: [],
      passed: ['queue_front'],
      familiarId: 'person_17',
      callback: false,
    },
    code: 10,
    first: `{"type":"visit.began","contactId":"${c}","visitId":"visit_9bwe","queueId":"queue_schools","channel":"voice","settingsVersion":8,"placedAt":1795622529168,"needs":[{"skillId":"skill_schools","atLeast":3}],"priority":0,"goalSeconds":60,"because":"the bot handed over","entry":4137,"handOver":[],"passed":["queue_front"],"familiarId":"person_17","callback":false}`,
    second:
      '["visit_9bwe","queue_schools","voice",8,1795622529168,[{"skillId":"skill_schools","atLeast":3}],0,60,"the bot handed over",4137,[],["queue_front"],"person_17",false]',
  },
  {
    says: { type: 'visit.staged', contactId: c, visitId: 'visit_9bwe', stage: 1, early: false },
    code: 11,
    first: `{"type":"visit.staged","contactId":"${c}","visitId":"visit_9bwe","stage":1,"early":false}`,
    second: '["visit_9bwe",1,false]',
  },
  {
    says: { type: 'visit.told', contactId: c, visitId: 'visit_9bwe', seconds: 150 },
    code: 30,
    first: `{"type":"visit.told","contactId":"${c}","visitId":"visit_9bwe","seconds":150}`,
    second: '["visit_9bwe",150]',
  },
  {
    says: { type: 'message.left', contactId: c, queueId: 'queue_schools', needs: [] },
    code: 31,
    first: `{"type":"message.left","contactId":"${c}","queueId":"queue_schools","needs":[]}`,
    second: '["queue_schools",[]]',
  },
  {
    says: { type: 'visit.opened', contactId: c, visitId: 'visit_9bwe', to: 'partner', id: 'partner_bench' },
    code: 12,
    first: `{"type":"visit.opened","contactId":"${c}","visitId":"visit_9bwe","to":"partner","id":"partner_bench"}`,
    second: '["visit_9bwe","partner","partner_bench"]',
  },
  {
    says: { type: 'visit.asked', contactId: c, visitId: 'visit_9bwe', until: null },
    code: 13,
    first: `{"type":"visit.asked","contactId":"${c}","visitId":"visit_9bwe","until":null}`,
    second: '["visit_9bwe"]',
  },
  {
    says: { type: 'visit.ended', contactId: c, visitId: 'visit_9bwe', how: 'callback-asked' },
    code: 14,
    first: `{"type":"visit.ended","contactId":"${c}","visitId":"visit_9bwe","how":"callback-asked"}`,
    second: '["visit_9bwe","callback-asked"]',
  },
  {
    says: {
      type: 'partner.dialled',
      contactId: c,
      visitId: 'visit_9bwe',
      callId: 'call_g6wm',
      partnerId: 'partner_bench',
      numberId: 'number_1',
    },
    code: 15,
    first: `{"type":"partner.dialled","contactId":"${c}","visitId":"visit_9bwe","callId":"call_g6wm","partnerId":"partner_bench","numberId":"number_1"}`,
    second: '["visit_9bwe","call_g6wm","partner_bench","number_1"]',
  },
  {
    says: { type: 'partner.answered', contactId: c, visitId: 'visit_9bwe', callId: 'call_g6wm' },
    code: 16,
    first: `{"type":"partner.answered","contactId":"${c}","visitId":"visit_9bwe","callId":"call_g6wm"}`,
    second: '["visit_9bwe","call_g6wm"]',
  },
  {
    says: {
      type: 'partner.ended',
      contactId: c,
      visitId: 'visit_9bwe',
      callId: 'call_g6wm',
      how: 'not-needed',
      counted: false,
    },
    code: 17,
    first: `{"type":"partner.ended","contactId":"${c}","visitId":"visit_9bwe","callId":"call_g6wm","how":"not-needed","counted":false}`,
    second: '["visit_9bwe","call_g6wm","not-needed",false]',
  },
  {
    says: { type: 'callback.changed', contactId: c, callbackId: 'callback_6awa', state: 'dialling' },
    code: 18,
    first: `{"type":"callback.changed","contactId":"${c}","callbackId":"callback_6awa","state":"dialling"}`,
    second: '["callback_6awa","dialling"]',
  },
  {
    says: {
      type: 'offer.made',
      contactId: c,
      visitId: 'visit_9bwe',
      offerId: 'offer_f31r',
      personId: 'person_42',
      acceptBy: 1795520396699,
      groupId: 'group_help',
    },
    code: 19,
    first: `{"type":"offer.made","contactId":"${c}","visitId":"visit_9bwe","offerId":"offer_f31r","personId":"person_42","acceptBy":1795520396699,"groupId":"group_help"}`,
    second: '["visit_9bwe","offer_f31r","person_42",1795520396699,"group_help"]',
  },
  {
    says: {
      type: 'offer.ended',
      contactId: c,
      visitId: 'visit_9bwe',
      offerId: 'offer_f31r',
      personId: 'person_42',
      how: 'withdrawn',
    },
    code: 20,
    first: `{"type":"offer.ended","contactId":"${c}","visitId":"visit_9bwe","offerId":"offer_f31r","personId":"person_42","how":"withdrawn"}`,
    second: '["visit_9bwe","offer_f31r","person_42","withdrawn"]',
  },
  {
    says: {
      type: 'leg.began',
      contactId: c,
      visitId: 'visit_9bwe',
      legId: 'leg_whgs',
      personId: 'person_42',
      groupId: 'group_help',
      byHand: false,
    },
    code: 21,
    first: `{"type":"leg.began","contactId":"${c}","visitId":"visit_9bwe","legId":"leg_whgs","personId":"person_42","groupId":"group_help","byHand":false}`,
    second: '["visit_9bwe","leg_whgs","person_42","group_help",false]',
  },
  {
    says: { type: 'leg.wrapping', contactId: c, legId: 'leg_whgs', personId: 'person_42', passedOn: true },
    code: 22,
    first: `{"type":"leg.wrapping","contactId":"${c}","legId":"leg_whgs","personId":"person_42","passedOn":true}`,
    second: '["leg_whgs","person_42",true]',
  },
  {
    says: { type: 'leg.filed', contactId: c, legId: 'leg_whgs', personId: 'person_42', outcome: 'DONE' },
    code: 23,
    first: `{"type":"leg.filed","contactId":"${c}","legId":"leg_whgs","personId":"person_42","outcome":"DONE"}`,
    second: '["leg_whgs","person_42","DONE"]',
  },
  {
    says: {
      type: 'leg.front',
      contactId: c,
      legId: 'leg_whgs',
      personId: 'person_42',
      from: 1000,
      to: 2000,
      realFrom: 5000,
      realTo: 5500,
    },
    code: 29,
    first: `{"type":"leg.front","contactId":"${c}","legId":"leg_whgs","personId":"person_42","from":1000,"to":2000,"realFrom":5000,"realTo":5500}`,
    second: '["leg_whgs","person_42",1000,2000,5000,5500]',
  },
  {
    says: {
      type: 'leg.ended',
      contactId: c,
      legId: 'leg_whgs',
      personId: 'person_42',
      outcome: null,
      handleSeconds: 422.755,
    },
    code: 24,
    first: `{"type":"leg.ended","contactId":"${c}","legId":"leg_whgs","personId":"person_42","outcome":null,"handleSeconds":422.755}`,
    second: '["leg_whgs","person_42",null,422.755]',
  },
  {
    says: { type: 'contact.ended', contactId: c, how: 'closed-by-us' },
    code: 25,
    first: `{"type":"contact.ended","contactId":"${c}","how":"closed-by-us"}`,
    second: '["closed-by-us"]',
  },
  {
    says: { type: 'person.duty', personId: 'person_30', duty: 'away', reason: 'missed an offer' },
    code: 26,
    first: '{"type":"person.duty","personId":"person_30","duty":"away","reason":"missed an offer"}',
    second: '["person_30","away","missed an offer"]',
  },
  {
    says: { type: 'person.reach', personId: 'person_30', reachable: false },
    code: 27,
    first: '{"type":"person.reach","personId":"person_30","reachable":false}',
    second: '["person_30",false]',
  },
  {
    says: { type: 'settings.changed', version: 9, kind: 'queue', id: 'queue_schools' },
    code: 28,
    first: '{"type":"settings.changed","version":9,"kind":"queue","id":"queue_schools"}',
    second: '[9,"queue","queue_schools"]',
  },
];
