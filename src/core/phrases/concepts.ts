import { oneSlip } from './slips';
import { folded, stemOf } from './tokens';

/**
 * Words that mean much the same to somebody who writes to customer service, by concept and language. They let a phrase be
 * understood in words that no example uses, and an example in one language help another. A word may stand under two.
 */
const CONCEPTS: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  broken: {
    en: 'stepped sat accident accidentally chunk wet crunched flattened bashed collapse fracture fractured seized flaking unstrung limp kaput harm harmed injured crash crashed wobbly popped peeling bubbling sticking dead silent sound noise wrong screw missing scratches scratched marks pads pad peg pegs knock gouge splintered chip burst sticky mouldy rust rusty wobble collapsed switch power turn crackles crackling squeaks squeaking hurt ruined mess away broken break broke breaks breaking damage damaged snapped snap cracked crack dented dent bent scratched scratch smashed shattered faulty fault busted loose stuck jammed torn ripped leaking leak buzzing rattling dropped knocked fell chipped warped split wrecked dead malfunction defect defective unplayable unstuck unglued hole chewed squeak squeaky squeal crushed burnt soaked spilled spilt detached scrape tear tore crooked unresponsive respond responds apart cracking creaking wear worn',
    es: 'pise sente sento sin querer rompi rompieron despegada agrietado agrietada mojo cae cayeron destrozado destrozada fractura partieron hundido hundida astillado astillada suena sonar ruido desafinado mancha tornillo tornillos rasgunos pegado mal funciona enciende salio salir soltado oxidado chirria roto rota romper rompio quebrado partio partido partida dano danado danada golpe golpeado rajado rajada grieta abollado doblado suelto suelta atascado atasca cayo caido despego desperfecto averia averiado estropeado estropeada rayado rajo falla defectuoso agujero cascado abolladura despegado roce rotura roturas mojado mojada pisado aplastado torcido torcida averiada quebro apaga muerta muertas',
    fr: 'casse cassee casser abime abimee endommage fissure cabosse tordu panne defectueux tombe',
    pl: 'zepsuty zepsul uszkodzony pekl peklo zlamany zlamal wgniecenie usterka',
  },
  repair: {
    en: 'checkup overhauled seen inspected look looked examine inspection inspect diagnose restore sort sorted reset glue regulate repair repairs repaired fix fixed fixing mend mended service serviced servicing overhaul restring workshop technician luthier bench setup adjust adjustment engineer handyman craftsman maintenance fixes fixing tune tuning',
    es: 'arreglarlo arreglarla repararlo repararla reparen arreglado puesta punto mirar miren revisen restaurar reparar reparacion reparaciones arreglar arreglo arreglan arreglen taller tecnico lutier luthier ajuste ajustar revisar revision tecnica mantenimiento afinar afinacion',
    fr: 'reparer reparation atelier technicien luthier reglage',
    pl: 'naprawa naprawic serwis warsztat technik',
  },
  appointment: {
    en: 'week weeks soonest drop diary pushed push hour early clock o fit soon earliest date day days move moved change another different postpone bring forward time tuesday monday wednesday thursday friday come round house home appointment appointments book booking slot slots visit schedule scheduled reschedule rearrange calendar availability available afternoon earlier later confirm confirmed arrange rearranged',
    es: 'concertar aplazo fecha cuanto antes dia martes lunes miercoles jueves viernes mover cambiar aplazar adelantar domicilio pasar cita citas visita hora horas hueco agenda agendar programar reprogramar anular anulen reservar reserva manana tarde confirmar',
    fr: 'rendez vous visite creneau reserver',
    pl: 'wizyta termin umowic',
  },
  hire: {
    en: 'scheme deal lending hirer renter commit commitment term monthly month months contract agreement package plan hire hiring rent renting rental rentals lease leasing loan borrow borrowing lend lends loaned hires hired rented period weekly quarterly subscription',
    es: 'alquileres contratar contratacion plazo trimestre mensual mes meses contrato curso alquilar alquiler alquilo alquilan arrendar arriendo renta rentar prestar prestamo prestado alquilado alquilada arrendamiento mensualidad',
    fr: 'louer location emprunter',
    pl: 'wynajac wynajem wypozyczyc wypozyczenie',
  },
  begin: {
    en: 'hoping sibling siblings waiting paperwork documents lend niece nephew cousin suitable interested looking want needs need taken take available stock choose add another second extra try trial start starting begin beginning beginner new sign signup join register registration open get getting first enrol option options possible model customer client become join free learn learns learning home',
    es: 'informacion requisitos papeles documentos empezaria iniciar iniciarse llevarse sobrino sobrina busco necesito interesa interesado quisiera gustaria disponible disponibles llevarme llevarnos anadir otro empezar empieza comenzar comienza nuevo nueva alta inscribir registro principiante primera abrir cliente clientes nuevos empezamos opciones modelos',
    fr: 'commencer nouveau nouvelle debutant inscription ouvrir',
    pl: 'zaczac nowy nowa poczatkujacy zalozyc',
  },
  end: {
    en: 'needing interested gives leaves packing packed stopped ditch ditched unwanted bored fed finished done over anymore longer renew renewal renewing play playing given gave lost interest wind up enough moving abroad end ending cancel cancelling cancellation stop stopping terminate finish finished quit quitting discontinue notice giving leaving close closing continue continuing continued carry terminated ends out quits drop dropped dropping expire expires resign prefers',
    es: 'interes aburrio aburrido cansado abandona abandono rescision seguir ya termino terminado deja dejado toca tocar renovar terminar terminamos acabar cancelar cancelacion baja dejar dejo finalizar rescindir renueven renovar aviso continuar seguimos cancelamos cancele finalice finaliza rescindo',
    fr: 'arreter resilier resiliation annuler fin terminer',
    pl: 'zakonczyc wypowiedziec rezygnuje anulowac koniec',
  },
  giveback: {
    en: 'hands taking unwanted dropping drops depot away take post ship label box return returning returned back send sending collect collected collection pick pickup drop hand bring fetch give hand handed goes retrieve',
    es: 'devolverlo devolverla devolverlos llevarselo llevarsela retirada pasen llevarse llevense vuelva regreso devolver devolucion devuelvo entregar regresar recoger recogida recojan vengan retiren retirar entrego recojan devolvemos devuelvan',
    fr: 'rendre retourner retour renvoyer recuperer',
    pl: 'zwrocic zwrot oddac odebrac',
  },
  money: {
    en: 'bounced yearly annually upfront banks expired switch switched email transactions discounting excess unpaid twice double taken took euro euros pounds wrong amount price vat tax transaction autopay overdue late reminder sepa iban cheque transfer cash pay payment payments paid paying charge charged charges bill bills billing billed invoice invoices fee fees debit direct card refund refunded deposit bank account receipt statement overcharged money owe owed owing balance instalment debited deduct deducted withdrawn withdrawal sum reimburse reimbursed outstanding arrears instalments mistake',
    es: 'caducado caducada bancaria bancario cobrarme cobrarnos cobrasteis devuelto devuelvan domiciliar rechazado rechazada pendiente atrasado copia dos veces doble euros importe iva domiciliada recibos cobrado duplicado tarde pagar pago pagos pague cobro cobros cobraron cobran cargo cargos factura facturas recibo tarjeta reembolso reembolsen deposito fianza banco domiciliacion domiciliado transferencia dinero saldo cuota cuotas importe comprobante debo cobrar recargo recargos reembolsar facturado facturas cobrado',
    fr: 'payer paiement facture prelevement carte remboursement caution banque recu',
    pl: 'platnosc zaplacic faktura oplata karta zwrot kaucja bank rachunek',
  },
  price: {
    en: 'afford charge term minimum total price prices cost costs costing much cheap cheaper expensive quote rate rates discount fee',
    es: 'precio precios cuesta costar cuanto vale sale tarifa barato caro descuento presupuesto',
    fr: 'prix cout combien tarif cher remise',
    pl: 'cena koszt kosztuje ile rabat',
  },
  buy: {
    en: 'hang offer owners payoff purchases towards count value final outright remaining left buy buying purchase purchasing bought own owning owner keep keeping buyout outright ours mine forever permanently sell sells selling sale sold rest belong belongs property keeps reduced',
    es: 'propietario propietaria comprarla comprarlos quedarmela quedarnoslo vendeis venderme costaria opcion total final descuentan comprar compra compro comprarlo quedar quedarnos quedarme quedarmelo propio nuestra mio propiedad adquirir siempre venden vender venta nuestro nuestros propia compramos compraria quedarme',
    fr: 'acheter achat garder',
    pl: 'kupic kupno wykupic zatrzymac wlasny',
  },
  deliver: {
    en: 'brought bring bringing house couriers depot warehouse left address expected eta route post postman carrier van truck today tomorrow morning sent deliver delivered delivery deliveries courier parcel package order ordered dispatch dispatched dispatch ship shipped shipping shipment tracking track arrive arrived arrival arriving driver van waiting come turned getting here package packages doorstep neighbour shipment follow status',
    es: 'transportistas entregado entregaron camino recibo almacen direccion hoy manana salido salio enlace plazo envien mandado entrega entregar entregan envio envian enviado enviaron mensajero repartidor paquete pedido seguimiento rastrear llega llegar llego llegado esperando transportista furgoneta traen traer mandaron enviaron transporte mensajeria',
    fr: 'livraison livrer colis commande livreur suivi arriver expedition',
    pl: 'dostawa dostarczyc kurier paczka zamowienie sledzenie przesylka',
  },
  size: {
    en: 'toy measurements measurement proportion stretched stretching taller shorter wider narrower heavier lighter tall short bigger-size full three adult child reach arms hands stretch heavy correct measure measured move size sizes bigger smaller larger big small large tiny outgrown outgrew grown grow swap exchange upgrade upsize fit fits short long half quarter outgrow grows growing wide narrow junior measured shot next step little model',
    es: 'crecio creciendo alcanza llega brazos brazo estrecho ancho anchura talla tamano tamanos medida grande pequeno pequena chico chica enorme mayor menor crecido cambiar cambio cuarto quedado corto tallas grandes pequenos estiron crece medidas equivocada equivocado entero',
    fr: 'taille grand petit echanger echange grandi',
    pl: 'rozmiar wiekszy mniejszy duzy maly wymiana wymienic wyrosl',
  },
  school: {
    en: 'colleges district camp educational education everyone inventory bands choirs orchestras primary secondary department county youth ensemble programme parents lessons lesson tuition many several dozen twenty thirty forty school schools teacher teachers teach teaching pupil pupils student students class classes classroom head headteacher orchestra band choir college academy conservatoire bulk set group coordinate coordinator university nursery kindergarten choir principal teaches children',
    es: 'educativo educativos educacion campamento juvenil centro centros aulas inventario quince cuarenta primaria secundaria departamento ensemble curso varios varias docena veinte treinta escuela escuelas colegio colegios profesor profesora profe aula clase clases alumno alumnos instituto conservatorio orquesta banda coro lote cantidad grupo director directora docente docentes escolar escolares academia conservatorios',
    fr: 'ecole professeur eleve eleves classe orchestre conservatoire',
    pl: 'szkola szkoly nauczyciel uczen uczniowie klasa orkiestra',
  },
  open: {
    en: 'around pop come by business trading shutting sundays mondays fridays saturdays weekday weekdays tonight today evening noon lunch lunchtime morning easter christmas easter monday until before after still visit open opening opens close closed closes closing hours hour times weekend weekends sunday saturday holiday holidays bank late early shut shuts until staffed noon eve year',
    es: 'abrireis abris cerrais laborables puente hoy tarde manana mediodia navidad pascua hasta atencion local abierto abierta abren abre abrir cierran cierra cerrado horario horarios atienden domingo domingos sabado sabados festivo festivos fin semana agosto verano abiertos abiertas',
    fr: 'ouvert ouvrez ouverture ferme fermeture horaires dimanche samedi',
    pl: 'otwarte otwarcia godziny zamkniete niedziela sobota',
  },
  place: {
    en: 'shop store showroom office branch workshop premises counter',
    es: 'tienda local oficina sucursal',
    fr: 'magasin boutique',
    pl: 'sklep biuro',
  },
  person: {
    en: 'word complain ringing understand understanding connect transfer through anyone anybody help manager boss complaint team live voice customer service instead person human agent adviser advisor representative rep operator manager supervisor someone somebody people real talk speak speaking staff colleague call callback ring phone employee employees advisor advisors consultant contact superior advice being',
    es: 'reclamar reclamacion hable ponganme pongame devuelvan llamada humana entiende entienden pasar comunicar equipo ayuda jefe queja transferir atencion cliente verdad persona agente humano asesor asesora encargado encargada supervisor alguien hablar hablo comuniqueme paseme operador operadora llamar llamen llame telefono responsable jefa atiende atiendan ayude humano asesores',
    fr: 'personne humain conseiller agent responsable quelqu parler appeler',
    pl: 'czlowiek osoba konsultant konsultantem kierownik rozmawiac zadzwonic',
  },
  machine: {
    en: 'computers recording automatic script ai chatbot assistant menu press useless bot robot machine automated computer',
    es: 'automatico automatica grabacion ordenador maquina robot bot contestador',
    fr: 'robot machine',
    pl: 'robot automat maszyna',
  },
  where: { en: 'where', es: 'donde', fr: 'ou', pl: 'gdzie' },
  when: { en: 'when', es: 'cuando', fr: 'quand', pl: 'kiedy' },
  late: {
    en: 'not never hasnt didnt received receive turn shown show late delayed delay still yet missing lost overdue yesterday supposed promised waiting nobody',
    es: 'nunca no llevo semana recibido aparecido paso pasado tarde retraso retrasado todavia aun falta perdido ayer quedaron nadie',
    fr: 'retard encore toujours perdu hier',
    pl: 'opoznienie jeszcze zaginela wczoraj',
  },
  not: {
    en: 'not no never dont wont doesnt cant isnt without t',
    es: 'no nunca ni sin',
    fr: 'ne pas jamais non sans',
    pl: 'nie nigdy bez',
  },
  howmuch: { en: 'how much many', es: 'cuanto cuanta cuantos', fr: 'combien', pl: 'ile' },
  child: {
    en: 'daughter son child kid kids girl boy grandson granddaughter',
    es: 'hija hijo nino nina nieto nieta',
    fr: 'fille fils enfant',
    pl: 'corka syn dziecko',
  },
  part: {
    en: 'bow string strings neck bridge key keys valve valves pad pads reed mouthpiece case slide peg pegs pedal pedals bell head drumhead speaker strap scroll soundpost post fingerboard hinge zip handle button stand cymbal chinrest tailpiece spike joint cork lid fret frets nut hammer power supply adapter cable',
    es: 'arco cuerda cuerdas mastil puente llave llaves valvula valvulas zapatilla zapatillas cana boquilla estuche vara clavija clavijas pedal pedales campana parche altavoz correa voluta alma diapason bisagra cremallera asa boton atril platillo tecla teclas muelle tapa traste trastes cable adaptador',
    fr: 'archet corde cordes manche chevalet cle cles etui anche',
    pl: 'smyczek struna struny klucz futeral',
  },
  elsewhere: {
    en: 'car cars bus train trains tram bike bicycle taxi airport flight flights plane ticket tickets passport visa hotel beach mountain museum cinema film films movie theatre gym pool swimming football rugby tennis cricket chess game games match league score president election politics council government tax weather rain snow sunny forecast temperature joke jokes poem story riddle recipe cook cooking dinner supper breakfast pizza burger curry soup pasta rice egg eggs cake bread milk cheese wine beer coffee tea restaurant menu chef doctor dentist nurse hospital fever headache medicine vitamins pharmacy chemist vaccine knee tooth haircut shoes shirt dress coat suit jeans socks sofa fridge kettle oven dishwasher microwave boiler radiator sink tap toilet shower plumber electrician heating roof garden lawn plants flowers tomatoes tree cat cats kitten puppy horse elephant penguin penguins bird fish whale planet planets moon mars space capital country island history king queen war language translate homework maths algebra spelling dictionary calories diet weight jog yoga marathon laptop printer password wifi internet website router screen app inbox camera television remote software mortgage loan pension salary job jobs vacancy landlord flat rent neighbour neighbours wedding birthday babysitter babysit nappies lottery dream dreams ghost ghosts sky rainbow star stars sing dance draw paint knit juggle loyalty parcel stamps',
    es: 'coche coches autobus tren trenes tranvia bici bicicleta taxi aeropuerto vuelo vuelos avion pasaporte visado hotel playa montana museo cine pelicula peliculas teatro gimnasio piscina futbol tenis ajedrez liga marcador presidente elecciones politica ayuntamiento gobierno impuestos lluvia llover nieve sol temperatura chiste poema cuento receta cocinar cena desayuno pizza hamburguesa paella sopa pasta arroz huevo huevos tortilla pan leche queso vino cerveza cafe restaurante menu medico dentista hospital fiebre cabeza medicina vitaminas farmacia vacuna rodilla muela pelo zapatos camisa vestido abrigo pantalon sofa nevera horno lavavajillas lavadora caldera ducha grifo fontanero electricista calefaccion tejado jardin plantas flores tomates arbol gato gatos perro perros caballo elefante pinguino pajaro pez ballena planeta planetas luna marte capital pais isla historia guerra idioma traducir deberes matematicas calorias dieta yoga portatil impresora contrasena wifi internet router movil pantalla camara television hipoteca pension sueldo empleo piso vecino vecinos boda cumpleanos loteria sueno fantasma cielo estrella cantar bailar dibujar pintar rueda camareros',
    fr: 'voiture train avion hotel plage film football meteo pluie recette pizza medecin chat chien ordinateur',
    pl: 'samochod pociag samolot hotel plaza film pilka pogoda deszcz przepis pizza lekarz kot pies komputer',
  },
};

const byStem = new Map<string, string[]>();
for (const [concept, languages] of Object.entries(CONCEPTS)) {
  for (const [language, words] of Object.entries(languages)) {
    for (const word of words.split(' ')) {
      const key = `${language} ${stemOf(folded(word), language)}`;
      const there = byStem.get(key);
      if (!there) byStem.set(key, [concept]);
      else if (!there.includes(concept)) there.push(concept);
    }
  }
}
/** Known words of more than 5 letters by language and first letter: where a slip of one is looked for. */
const longWords = new Map<string, { readonly key: string; readonly concepts: readonly string[] }[]>();
for (const [key, concepts] of byStem) {
  if (key.length <= 8) continue;
  const there = longWords.get(key.slice(0, 4));
  if (there) there.push({ key, concepts });
  else longWords.set(key.slice(0, 4), [{ key, concepts }]);
}
const NONE: readonly string[] = [];
const near = new Map<string, readonly string[]>();

/** The concepts that a stemmed word belongs to; a long word that is one slip off a known one counts as that one. */
export function conceptsOf(stem: string, language: string): readonly string[] {
  const key = `${language.split('-')[0] ?? language} ${stem}`;
  const exact = byStem.get(key);
  if (exact || stem.length < 6) return exact ?? NONE;
  let found = near.get(key);
  if (!found) {
    if (near.size > 5000) near.clear();
    found = longWords.get(key.slice(0, 4))?.find((known) => oneSlip(known.key, key))?.concepts ?? NONE;
    near.set(key, found);
  }
  return found;
}
