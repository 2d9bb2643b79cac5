import type { BotScript, Choice, Cue, Listen, Step } from '../src/core/bots/model';
import type { Localised } from '../src/core/localised';

const both = (en: string, es: string): Localised => ({ en, es });
const next: Cue = { to: 'next' };
const scene = (sceneId: string): Cue => ({ to: 'scene', sceneId });
const choice = (id: string, key: string, label: Localised, words: { en: string[]; es: string[] }, cue: Cue, setsLanguage?: string): Choice => ({ id, key, label, synonyms: words, cue, ...(setsLanguage ? { setsLanguage } : {}) });
const say = (id: string, wording: Localised): Step => ({ id, verb: 'say', wording });
const choose = (id: string, wording: Localised, remember: string, choices: Choice[], otherwise: Cue, tries = 2): Listen => ({ id, verb: 'listen', wording, hears: { kind: 'choices', choices }, remember, tries, again: {}, otherwise });
const hear = (id: string, wording: Localised, remember: string, otherwise: Cue): Listen => ({ id, verb: 'listen', wording, hears: { kind: 'text' }, remember, tries: 2, again: {}, otherwise });
const over = (id: string, queueId: string, wording: Localised, needs: { skillId: string; atLeast: 1 | 2 | 3 | 4 | 5 }[] = []): Step => ({ id, verb: 'hand-over', queueId, needs, priority: 0, wording });
const end = (id: string, wording: Localised): Step => ({ id, verb: 'end', wording });

const ONE_MOMENT = both('Thank you. One moment, I am finding the right person.', 'Gracias. Un momento, busco a la persona adecuada.');

/** What most scripts share: where each reason leads. `p` keeps line ids apart between bots. */
const reasons = (p: string): Choice[] => [
  choice('hire', '1', both('a new hire', 'un alquiler nuevo'), { en: ['hire', 'rent', 'rental', 'new instrument', 'book an instrument'], es: ['alquilar', 'alquiler', 'contratar'] }, scene(`${p}_hire`)),
  choice('repair', '2', both('a repair', 'una reparación'), { en: ['repair', 'broken', 'damage', 'damaged', 'snapped', 'cracked', 'fix'], es: ['reparar', 'roto', 'rota', 'daño', 'arreglar'] }, scene(`${p}_repair`)),
  choice('bill', '3', both('a bill', 'una factura'), { en: ['billing', 'invoice', 'payment', 'charge', 'charged', 'refund', 'pay'], es: ['pago', 'cobro', 'pagar', 'recibo'] }, scene(`${p}_bill`)),
  choice('delivery', '4', both('a delivery', 'una entrega'), { en: ['delivered', 'courier', 'collect', 'parcel', 'arrive'], es: ['envío', 'mensajero', 'recoger'] }, scene(`${p}_delivery`)),
  choice('school', '5', both('a school', 'un colegio'), { en: ['schools', 'teacher', 'class set'], es: ['escuela', 'profesor'] }, scene(`${p}_school`)),
];
const rest = (p: string, es: boolean): BotScript['scenes'] => [
  { id: `${p}_hire`, name: 'New hire', steps: [
    hear(`${p}_h1`, both('Which instrument would you like?', '¿Qué instrumento le gustaría?'), 'instrument', next),
    { id: `${p}_h2`, verb: 'branch', ways: [{ when: { in: ['violin', { var: 'values.instrument' }] }, cue: scene(`${p}_strings`) }, { when: { in: ['cello', { var: 'values.instrument' }] }, cue: scene(`${p}_strings`) }, { when: { '==': [{ var: 'language' }, 'es'] }, cue: es ? { to: 'line', lineId: `${p}_h4` } : next }], otherwise: next },
    over(`${p}_h3`, 'queue_newhire', ONE_MOMENT), over(`${p}_h4`, es ? 'queue_espanol' : 'queue_newhire', ONE_MOMENT)] },
  { id: `${p}_repair`, name: 'Repairs', steps: [
    say(`${p}_r1`, both('Sorry to hear that. Let us get it looked at.', 'Lo siento. Vamos a verlo.')),
    hear(`${p}_r2`, both('What is the hire number? It is on the case label.', '¿Cuál es el número de alquiler? Está en la etiqueta del estuche.'), 'hire number', next),
    hear(`${p}_r3`, both('What has happened to the instrument?', '¿Qué le ha pasado al instrumento?'), 'problem', next),
    { id: `${p}_r4`, verb: 'branch', ways: [{ when: { '==': [{ var: 'language' }, 'fr'] }, cue: { to: 'line', lineId: `${p}_r6` } }], otherwise: next },
    over(`${p}_r5`, 'queue_repairs', ONE_MOMENT), over(`${p}_r6`, 'queue_repairs', { fr: 'Merci. Un instant, je cherche la bonne personne.' , ...ONE_MOMENT }, [{ skillId: 'skill_fr', atLeast: 3 }])] },
  { id: `${p}_bill`, name: 'Billing', steps: [
    choose(`${p}_b1`, both('Is it about the date of your next payment, or something else?', '¿Es sobre la fecha del próximo pago o sobre otra cosa?'), '', [
      choice('date', '1', both('the next payment', 'el próximo pago'), { en: ['date', 'when', 'next'], es: ['fecha', 'cuándo'] }, { to: 'line', lineId: `${p}_b3` }),
      choice('other', '2', both('something else', 'otra cosa'), { en: ['other', 'else', 'person'], es: ['otra', 'persona'] }, next)], next),
    over(`${p}_b2`, 'queue_billing', ONE_MOMENT),
    end(`${p}_b3`, both('Payments are taken on the first working day of each month. Thank you and goodbye.', 'Los pagos se cobran el primer día hábil de cada mes. Gracias y hasta pronto.'))] },
  { id: `${p}_delivery`, name: 'Deliveries', steps: [
    choose(`${p}_d1`, both('Would you like to know when it comes, or change it?', '¿Quiere saber cuándo llega o cambiarla?'), '', [
      choice('when', '1', both('when it comes', 'cuándo llega'), { en: ['when', 'know', 'time'], es: ['cuándo', 'hora'] }, { to: 'line', lineId: `${p}_d3` }),
      choice('change', '2', both('change it', 'cambiarla'), { en: ['change', 'move', 'another day'], es: ['cambiar', 'otro día'] }, next)], next),
    over(`${p}_d2`, 'queue_deliveries', ONE_MOMENT),
    end(`${p}_d3`, both('Our van comes between 9 and 13 on the day in your confirmation mail. Goodbye.', 'La furgoneta pasa entre las 9 y las 13 el día que indica su correo. Hasta pronto.'))] },
  { id: `${p}_school`, name: 'Schools', steps: [over(`${p}_s1`, 'queue_schools', ONE_MOMENT)] },
  { id: `${p}_strings`, name: 'Strings advice', steps: [say(`${p}_t1`, both('A good choice. Sizes matter with strings.', 'Buena elección. En cuerda, la talla importa.')), over(`${p}_t2`, 'queue_strings', ONE_MOMENT)] },
  { id: `${p}_else`, name: 'Everything else', steps: [over(`${p}_e1`, 'queue_newhire', both('Let me get you a person.', 'Le paso con una persona.'))] },
];

/** The chat answers in three languages of its own; French only where it is worded. */
export const BOTS: readonly { id: string; name: string; script: BotScript }[] = [
  { id: 'bot_front', name: 'Telephone front door', script: { shownName: 'Brindlewood', languages: ['en', 'es'], fallbackQueueId: 'queue_newhire', scenes: [
    { id: 'v_welcome', name: 'Welcome', steps: [
      say('v_w1', both('Hello, this is Brindlewood Instrument Hire.', 'Hola, le atiende Brindlewood, alquiler de instrumentos.')),
      choose('v_w2', both('Which language shall we speak?', '¿En qué idioma hablamos?'), 'language asked', [
        choice('english', '1', { en: 'English', es: 'inglés' }, { en: [], es: [] }, scene('v_reason'), 'en'),
        choice('spanish', '2', { en: 'Spanish', es: 'español' }, { en: ['castellano'], es: [] }, scene('v_reason'), 'es'),
        choice('french', '3', { en: 'French', es: 'francés', fr: 'français' }, { en: [], es: [] }, scene('v_reason'), 'fr')], scene('v_reason'))] },
    { id: 'v_reason', name: 'Reason', steps: [choose('v_q1', both('What is it about?', '¿De qué se trata?'), 'reason', reasons('v'), scene('v_else'))] },
    ...rest('v', true)] } },
  { id: 'bot_chat', name: 'Chat front door', script: { shownName: 'Brindle', languages: ['en', 'es'], fallbackQueueId: 'queue_newhire', scenes: [
    { id: 'c_welcome', name: 'Welcome', steps: [
      say('c_w1', both('Hello, this is Brindle, the assistant of Brindlewood Instrument Hire.', 'Hola, soy Brindle, el asistente de Brindlewood.')),
      choose('c_w2', both('How can I help?', '¿En qué puedo ayudarle?'), 'reason', reasons('c'), scene('c_else'), 3)] },
    ...rest('c', true)] } },
  { id: 'bot_text', name: 'Text line', script: { shownName: 'Brindlewood', languages: ['en', 'es'], fallbackQueueId: 'queue_deliveries', scenes: [
    { id: 't_welcome', name: 'Welcome', steps: [choose('t_w1', both('Brindlewood here. Reply with a number:', 'Brindlewood. Responda con un número:'), 'reason', reasons('t'), scene('t_else'))] },
    ...rest('t', false)] } },
  { id: 'bot_repairs', name: 'Repairs line', script: { shownName: 'Brindlewood Repairs', languages: ['en', 'es'], fallbackQueueId: 'queue_repairs', scenes: [
    { id: 'r_welcome', name: 'Welcome', steps: [
      say('r_w1', both('You have reached the repair bench.', 'Ha llamado al taller de reparaciones.')),
      hear('r_w2', both('Please key in your hire number, then the hash key.', 'Marque su número de alquiler y la almohadilla.'), 'hire number', next),
      hear('r_w3', both('What has happened to the instrument?', '¿Qué le ha pasado al instrumento?'), 'problem', next),
      over('r_w4', 'queue_repairs', ONE_MOMENT)] }] } },
];
