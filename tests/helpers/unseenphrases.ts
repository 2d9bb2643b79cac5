/**
 * Made-up phrases that the shipped phrasebook never learns from, by intent: what is said of the matcher is judged on these too,
 * for its lexicon was tended while looking at the phrases of the book. Add to them; do not tend the lexicon to them.
 */
export const UNSEEN: Readonly<Record<string, Readonly<Record<'en' | 'es', readonly string[]>>>> = {
  start_hire: {
    en: ['What would I pay each month for a tuba?', 'We are looking for an accordion for our little one, can you help', 'how do we get an instrument from you', 'Hello, is it possible to lease a harp?', 'I want to take out a banjo for a few weeks to see if he likes it', 'new customer, thinking about a bass guitar', 'do you have cornets in stock for hire', 'which documents do I need to rent from you', 'My nephew begins lessons in January and wants a cello', 'are there any violas free at the moment'],
    es: ['¿Qué necesito para alquilar un clarinete?', 'Mi hijo empieza con el trombón y queremos uno prestado', '¿Tienen oboes disponibles para el mes que viene?', 'Somos clientes nuevos y nos interesa un teclado', '¿Cuánto me costaría al mes un contrabajo?'],
  },
  swap_size: {
    en: ['The viola is getting too small for Ella', 'he has shot up and his cello looks tiny', 'Could we move from the eighth to the quarter size', 'please send the next one up, this is too little', 'the guitar neck is too wide for her hands, do you do a smaller model', 'exchange for full size', 'We picked a size that is too large', 'how do I get a bigger instrument on our current rental', 'she needs to go up a size before the exam', 'is it free to change to a different size'],
    es: ['El violín ya le queda corto a mi hija', '¿Cómo hacemos para pasar a un tamaño mayor?', 'Ha crecido mucho y la viola es demasiado pequeña', 'Queremos cambiar la guitarra por una más pequeña', 'Nos mandaron la talla equivocada'],
  },
  report_damage: {
    en: ['The neck of the guitar has come apart', 'I dropped it and now there is a big scratch', 'my bow hair is coming out', 'one key on the piano makes no sound', 'the trombone slide will not move after it fell', 'The chin rest broke off this morning', 'our dog chewed the violin case', 'the reed holder is missing a screw', 'it arrived damaged', 'the strings broke again', 'there is a hole in the drum'],
    es: ['Se ha roto una cuerda del chelo', 'El teclado no enciende desde ayer', 'La trompeta tiene una abolladura', 'Mi hija pisó el estuche y se rompió', 'Hay una tecla que no suena'],
  },
  book_repair_visit: {
    en: ['When can you mend it at my place?', 'I need an engineer to look at the piano, which days do you have', 'could the man who fixes things come on Wednesday instead', 'can I have the workshop slot on the 14th', 'please postpone our technician', 'what is the earliest repair booking', 'I have to call off the repair for tomorrow', 'would someone pick up the sax so it can be fixed', 'move my service appointment to the afternoon', 'get my flute serviced'],
    es: ['¿Puede venir el técnico el lunes?', 'Quisiera una cita en el taller', 'Necesito cambiar la hora de la reparación', '¿Cuándo recogen el violín para repararlo?', 'Cancelen la visita del técnico de mañana'],
  },
  billing_question: {
    en: ['You took the money two times', 'I think my last invoice is wrong', 'how can I change my card', 'where do I see my payments', 'when will you give me my deposit back', 'Is it possible to pay quarterly', 'what was the 35 euros on the 3rd for', 'the payment failed, can I try again', 'can you email me last year’s invoices', 'I was promised a refund and have seen nothing', 'my bank account has changed'],
    es: ['Me han cobrado dos veces', 'No entiendo esta factura', '¿Cuándo me devuelven la fianza?', 'Quiero cambiar la tarjeta con la que pago', '¿Qué día pasan el recibo?'],
  },
  return_or_end: {
    en: ['He lost interest so we will not go on', 'how can I get out of the contract', 'We no longer need the trumpet', 'what do I do to give it back', 'stop my rental at the end of the month', 'I would like to hand in the keyboard', 'terminate the agreement please', 'my daughter has stopped playing', 'the hire should not carry on after June', 'how many weeks before do I have to tell you that we stop', 'come and fetch the cello, we are done with it'],
    es: ['Queremos cancelar el alquiler', 'Mi hijo ya no quiere tocar la trompeta', '¿Dónde entrego el clarinete?', '¿Cómo termino mi contrato?', 'Ya no necesitamos la viola'],
  },
  buy_out: {
    en: ['could we have it for keeps if we pay the rest', 'What is the price if I want to own the cello', 'thinking of purchasing the clarinet we rent', 'can the rental turn into a sale', 'I would love to buy this guitar from you', 'is part of the rent taken off when we purchase', 'how much more until it belongs to us', 'buy my instrument', 'can we keep the trumpet forever and pay once'],
    es: ['¿Puedo comprar la flauta que tengo alquilada?', '¿Cuánto cuesta quedarnos con la guitarra?', 'Queremos comprar el chelo', '¿Lo que he pagado cuenta para la compra?', 'Nos gustaría que el violín fuera nuestro'],
  },
  delivery_status: {
    en: ['any news on my parcel', 'the package is late', 'what day is my flute getting here', 'nobody came with the violin', 'your driver went past and did not stop', 'has it been shipped', 'I ordered last week and still have nothing', 'the tracking link does not work', 'will it come before noon', 'when should I be home for the drum kit'],
    es: ['¿Dónde está mi paquete?', 'Todavía no ha llegado el violín', '¿A qué hora viene el mensajero?', 'El pedido va con retraso', '¿Ya enviaron la trompeta?'],
  },
  school_account: {
    en: ['I teach at a primary school and want forty ukuleles', 'our college orchestra needs several cellos', 'discount for schools?', 'one of our pupils left, take her off our list', 'can we pay by invoice as a school', 'I coordinate music for six schools', 'new head of music, who looks after our account', 'can the students keep them over the holidays on the school plan', 'we want twenty five guitars for year 7'],
    es: ['Somos un colegio y queremos quince guitarras', 'Necesito añadir un alumno a la cuenta de la escuela', '¿Hay descuentos para conservatorios?', 'Doy clases y busco instrumentos para toda la clase', 'Llamo del instituto por nuestra cuenta'],
  },
  opening_hours: {
    en: ['are you there on New Year’s Day', 'until when can I come by this evening', 'is anyone in on Saturdays', 'when do you shut', 'working hours', 'is the store closed on Monday', 'from what time can I call', 'do you open early', 'opening times for the bank holiday weekend', 'when can I drop by the shop'],
    es: ['¿A qué hora cierran?', '¿Abren los sábados?', '¿Qué horario tienen en agosto?', '¿Está abierta la tienda mañana?', '¿Desde qué hora puedo llamar?'],
  },
  speak_to_person: {
    en: ['give me a human', 'I need to talk with someone', 'can you get your boss', 'agent', 'please ring me', 'I would like a call from one of your people', 'this bot is no use, I want help from somebody', 'is anyone real there', 'let me talk to your colleague', 'representative please'],
    es: ['Quiero hablar con alguien', 'Un agente, por favor', '¿Pueden llamarme?', 'Necesito que me ayude una persona', 'Páseme con su jefe'],
  },
};

/** Made-up phrases about nothing in the book. */
export const UNSEEN_OTHER: readonly { readonly language: 'en' | 'es'; readonly text: string }[] = [
  ...['what should I cook for dinner', 'is it sunny in the mountains', 'my bike has a flat tyre', 'how do I fix a dripping tap', 'who painted the ceiling', 'can you book a flight for me', 'I need a haircut', 'which vitamins are good in winter', 'how many people live in Iceland', 'my neighbour is too loud', 'can you help me with my maths homework', 'the cat is asleep', 'what is the fastest animal', 'recommend me a novel', 'is the museum free for children', 'my passport has expired', 'how do I change a light bulb', 'what is your name', 'did it snow last night', 'the lift in our building is stuck', 'where do penguins live', 'how do I remove a stain from a shirt', 'I cannot sleep', 'which wine goes with fish'].map((text) => ({ language: 'en' as const, text })),
  ...['¿Qué tiempo hará el domingo?', '¿Quién ganó la carrera?', 'Cuéntame un chiste', 'Necesito una receta de sopa', 'Mi coche no arranca', '¿Cómo se llega al aeropuerto?', '¿Cuál es la capital de Noruega?', 'Se me ha roto el móvil', '¿Qué película me recomiendas?', 'Tengo dolor de cabeza'].map((text) => ({ language: 'es' as const, text })),
];
