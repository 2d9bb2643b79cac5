/**
 * Made-up phrases that the shipped phrasebook never learns from, by intent, written before the lexicon was last tended and kept
 * out of its sight. Add to them; do not tend the lexicon to them, or they no longer say how the matcher fares with strangers.
 */
export const UNSEEN: Readonly<Record<string, Readonly<Record<'en' | 'es', readonly string[]>>>> = {
  start_hire: {
    en: ['Can we get a trombone from you for a year?', 'I want to rent', 'What do you charge for a double bass each month', 'we would like to take a viola home for the school year', 'is there an electric guitar I could borrow', 'my twins want to learn the flute, what are the options', 'how do I become a customer', 'Please put me down for a keyboard from April'],
    es: ['Queremos alquilar un piano digital', '¿Qué instrumentos tienen para niños de seis años?', 'Necesito una guitarra para mi sobrino desde enero', '¿Cómo me hago cliente?'],
  },
  swap_size: {
    en: ['The cello no longer fits my son', 'time to go from half to three quarters', 'our girl finds the violin too long for her arm', 'can you send a larger one and pick up the old one', 'I measured her again and she is a 3/4 now', 'what size comes after 1/8', 'the ukulele is tiny on him', 'swap for something bigger'],
    es: ['El chelo le queda grande a la niña', 'Mi hijo necesita una viola mayor', '¿Me cambian el violín de 1/4 por el de 1/2?', 'Ha dado un estirón, toca subir de talla'],
  },
  report_damage: {
    en: ['the oboe makes a horrible squeak and two keys are loose', 'my little brother broke the ukulele', 'E string gone again', 'It fell off the stand and the scroll is chipped', 'water damage on the case', 'the pedal on the piano stopped responding', 'something snapped inside the saxophone', 'the trumpet you sent has a dent'],
    es: ['La flauta no suena desde que se cayó', 'Se partió el puente del violín', 'El piano tiene tres teclas muertas', 'Quiero informar de una rotura'],
  },
  book_repair_visit: {
    en: ['Is there a free slot with the luthier on Monday?', 'someone should come and fix the piano, when is that possible', 'I will not be in for the repair man on Thursday', 'change my workshop date', 'do I have to bring the violin in or will you fetch it for repair', 'please confirm my appointment with the technician', 'earlier appointment for the bassoon repair?', 'forget about the repair visit, it works again'],
    es: ['¿Me dan hora para arreglar el saxo?', 'Quiero anular la visita del lutier', '¿Puede venir el técnico por la mañana?', 'Cambien mi cita de reparación al jueves'],
  },
  billing_question: {
    en: ['The amount you debited is too high', 'what is the admin fee for', 'I paid already and got a reminder', 'when is the money taken each month', 'do you accept bank transfer', 'refund me please, the charge is a mistake', 'can I have a copy of the bill', 'is my deposit safe and when do I see it again'],
    es: ['No reconozco este cargo', '¿Puedo pagar con tarjeta?', 'Quiero la factura de mayo', 'El importe de este mes es más alto'],
  },
  return_or_end: {
    en: ['We have decided not to continue', 'he prefers football now, so please take the guitar', 'what happens at the end if we just give it back', 'I hereby cancel my contract', 'how soon can I stop paying and return the sax', 'pick up the drums, we do not want them any more', 'do you have a form to end the hire', 'she is leaving school and the clarinet can go back'],
    es: ['Ya no lo queremos, ¿dónde lo devolvemos?', 'Quiero rescindir el contrato', 'La niña lo deja, vengan a recoger el violín', '¿Cómo se cancela el alquiler?'],
  },
  buy_out: {
    en: ['We would rather own it', 'how much to make the cello ours', 'can my payments go towards the price', 'I want to purchase it after the trial', 'sell me the flute I have', 'is it possible to buy the drum kit at a reduced price', 'what remains to be paid until the guitar is mine', 'do you sell the rented instruments'],
    es: ['¿Me venden el saxo que tengo?', '¿Cuánto tendría que pagar para quedármelo?', 'Preferimos comprar el piano', '¿Se puede comprar al final?'],
  },
  delivery_status: {
    en: ['When is the courier coming?', 'my violin still is not here', 'where has my clarinet got to', 'I was promised delivery for Tuesday', 'has the driver left yet', 'order status please', 'the parcel went to the neighbour, I think', 'can I follow the shipment online'],
    es: ['No me ha llegado nada', '¿Cuándo me traen la guitarra?', 'El repartidor no vino', '¿Dónde va mi envío?'],
  },
  school_account: {
    en: ['We are a music school with sixty students', 'can our department order ten flutes', 'the pupil list of our school is wrong', 'teachers’ discount', 'I need instruments for a whole orchestra', 'our academy would like one bill for all children', 'change of head teacher on the account', 'renting for a class of thirty'],
    es: ['Soy la directora de un colegio', 'Queremos un lote de violines para el aula', '¿Qué condiciones hay para escuelas de música?', 'Hay que dar de alta a tres alumnos más'],
  },
  opening_hours: {
    en: ['Is your store open tomorrow morning?', 'how long are you there today', 'at what time do you open on weekdays', 'are you closed over Christmas', 'Sunday hours', 'until what time can I ring', 'is the showroom open late on Fridays', 'what days are you open'],
    es: ['¿Abren hoy?', '¿Cuál es el horario de la tienda?', '¿A qué hora abren por la mañana?', '¿Están abiertos en Navidad?'],
  },
  speak_to_person: {
    en: ['Could somebody call me?', 'I want a human being', 'is there a person I can chat with', 'stop this and get me an advisor', 'who is in charge there', 'I would prefer talking to an employee', 'please let a colleague contact me', 'real human now'],
    es: ['¿Hay alguien ahí?', 'Quiero una persona', 'Que me llame un responsable', 'Hablar con un asesor'],
  },
};

/** Made-up phrases about nothing in the book. */
export const UNSEEN_OTHER: readonly { readonly language: 'en' | 'es'; readonly text: string }[] = [
  ...['what should I cook for dinner', 'is it sunny in the mountains', 'my bike has a flat tyre', 'how do I fix a dripping tap', 'who painted the ceiling', 'can you book a flight for me', 'I need a haircut', 'which vitamins are good in winter', 'how many people live in Iceland', 'my neighbour is too loud', 'can you help me with my maths homework', 'the cat is asleep', 'what is the fastest animal', 'recommend me a novel', 'is the museum free for children', 'my passport has expired', 'how do I change a light bulb', 'what is your name', 'did it snow last night', 'the lift in our building is stuck', 'where do penguins live', 'how do I remove a stain from a shirt', 'I cannot sleep', 'which wine goes with fish'].map((text) => ({ language: 'en' as const, text })),
  ...['¿Qué tiempo hará el domingo?', '¿Quién ganó la carrera?', 'Cuéntame un chiste', 'Necesito una receta de sopa', 'Mi coche no arranca', '¿Cómo se llega al aeropuerto?', '¿Cuál es la capital de Noruega?', 'Se me ha roto el móvil', '¿Qué película me recomiendas?', 'Tengo dolor de cabeza'].map((text) => ({ language: 'es' as const, text })),
];
