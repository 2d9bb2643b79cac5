/** Phrases that are nobody's intent: what people also say to an assistant. They teach it what to leave alone. */
export const BACKGROUND: Readonly<Record<string, readonly string[]>> = {
  en: [
    'what is the weather like tomorrow', 'tell me a joke', 'who won the football last night', 'how old are you', 'what is your favourite colour', 'can you recommend a good film', 'I need a recipe for pancakes', 'how do I get to the airport', 'what time is the train to the coast', 'do you sell shoes',
    'my computer will not start', 'how do I reset my email password', 'translate this into Greek', 'play some music', 'set an alarm for seven', 'what is twelve times nine', 'who is the president', 'I lost my dog in the park', 'book me a table for two at eight', 'I would like a pizza with mushrooms',
    'what do you think of politics', 'good morning', 'hello', 'thanks', 'ok', 'you are very funny', 'asdf qwer', 'are you there', 'happy birthday', 'I am bored', 'can you write a poem', 'how tall is the highest mountain', 'is it going to rain at the weekend', 'my flight is cancelled', 'where can I park my car', 'I have a headache, which doctor should I see',
    'what is the capital of Peru', 'the internet is not working at home', 'do you have jobs', 'how do I grow tomatoes', 'the washing machine is leaking', 'when is the next election', 'which phone should I get', 'I want to learn to swim', 'how do I tune by ear', 'the bus was full this morning', 'sing me a song', 'do you believe in ghosts', 'turn off the lights', 'how many calories are in an apple',
  ],
  es: [
    'qué tiempo hace mañana', 'cuéntame un chiste', 'quién ganó el partido', 'cuántos años tienes', 'recomiéndame una película', 'necesito una receta de tortilla', 'cómo llego al aeropuerto', 'a qué hora sale el tren', 'mi ordenador no arranca', 'pon música', 'pon una alarma a las siete', 'buenos días', 'hola', 'gracias', 'vale',
    'he perdido a mi perro', 'quiero una pizza', 'me duele la cabeza', 'cuál es la capital de Perú', 'eres muy gracioso', 'estoy aburrido', 'va a llover el fin de semana', 'dónde puedo aparcar el coche', 'cuándo son las elecciones', 'escríbeme un poema', 'la lavadora pierde agua', 'tenéis ofertas de trabajo',
  ],
};
