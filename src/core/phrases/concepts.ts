import { oneSlip } from './slips';
import { folded, stemOf } from './tokens';

/**
 * Words that mean much the same to somebody who writes to customer service, by concept and language. They let a phrase be
 * understood in words that no example uses, and an example in one language help another. A word may stand under two.
 */
const CONCEPTS: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  broken: { en: 'wobbly popped peeling bubbling sticking dead silent sound noise wrong screw missing scratches scratched marks pads pad peg pegs knock gouge splintered chip burst sticky mouldy rust rusty wobble collapsed switch power turn crackles crackling squeaks squeaking hurt ruined mess away broken break broke breaks breaking damage damaged snapped snap cracked crack dented dent bent scratched scratch smashed shattered faulty fault busted loose stuck jammed torn ripped leaking leak buzzing rattling dropped knocked fell chipped warped split wrecked dead malfunction defect defective unplayable unstuck unglued hole', es: 'suena sonar ruido desafinado mancha tornillo tornillos rasgunos pegado mal funciona enciende salio salir soltado oxidado chirria roto rota romper rompio quebrado partio partido partida dano danado danada golpe golpeado rajado rajada grieta abollado doblado suelto suelta atascado atasca cayo caido despego desperfecto averia averiado estropeado estropeada rayado rajo falla defectuoso agujero cascado', fr: 'casse cassee casser abime abimee endommage fissure cabosse tordu panne defectueux tombe', pl: 'zepsuty zepsul uszkodzony pekl peklo zlamany zlamal wgniecenie usterka' },
  repair: { en: 'look looked examine inspection inspect diagnose restore sort sorted reset glue regulate repair repairs repaired fix fixed fixing mend mended service serviced servicing overhaul restring workshop technician luthier bench setup adjust adjustment', es: 'mirar miren revisen restaurar reparar reparacion reparaciones arreglar arreglo arreglan arreglen taller tecnico lutier luthier ajuste ajustar revisar revision', fr: 'reparer reparation atelier technicien luthier reglage', pl: 'naprawa naprawic serwis warsztat technik' },
  appointment: { en: 'fit soon earliest date day days move moved change another different postpone bring forward time tuesday monday wednesday thursday friday come round house home appointment appointments book booking slot slots visit schedule scheduled reschedule rearrange calendar availability available', es: 'dia martes lunes miercoles jueves viernes mover cambiar aplazar adelantar domicilio pasar cita citas visita hora horas hueco agenda agendar programar reprogramar anular anulen reservar reserva', fr: 'rendez vous visite creneau reserver', pl: 'wizyta termin umowic' },
  hire: { en: 'term monthly month months contract agreement package plan hire hiring rent renting rental rentals lease leasing loan borrow borrowing', es: 'mensual mes meses contrato curso alquilar alquiler alquilo alquilan arrendar arriendo renta rentar prestar prestamo prestado', fr: 'louer location emprunter', pl: 'wynajac wynajem wypozyczyc wypozyczenie' },
  begin: { en: 'interested looking want needs need taken take available stock choose add another second extra try trial start starting begin beginning beginner new sign signup join register registration open get getting first enrol', es: 'busco necesito interesa interesado quisiera gustaria disponible disponibles llevarme llevarnos anadir otro empezar empieza comenzar comienza nuevo nueva alta inscribir registro principiante primera abrir', fr: 'commencer nouveau nouvelle debutant inscription ouvrir', pl: 'zaczac nowy nowa poczatkujacy zalozyc' },
  end: { en: 'finished done over anymore longer renew renewal renewing play playing given gave lost interest wind up enough moving abroad end ending cancel cancelling cancellation stop stopping terminate finish finished quit quitting discontinue notice giving leaving close closing', es: 'seguir ya termino terminado deja dejado toca tocar renovar terminar terminamos acabar cancelar cancelacion baja dejar dejo finalizar rescindir renueven renovar aviso', fr: 'arreter resilier resiliation annuler fin terminer', pl: 'zakonczyc wypowiedziec rezygnuje anulowac koniec' },
  giveback: { en: 'away take post ship label box return returning returned back send sending collect collected collection pick pickup drop hand', es: 'llevarse llevense vuelva regreso devolver devolucion devuelvo entregar regresar recoger recogida recojan vengan', fr: 'rendre retourner retour renvoyer recuperer', pl: 'zwrocic zwrot oddac odebrac' },
  money: { en: 'twice double taken took euro euros pounds wrong amount price vat tax transaction autopay overdue late reminder sepa iban cheque transfer cash pay payment payments paid paying charge charged charges bill bills billing billed invoice invoices fee fees debit direct card refund refunded deposit bank account receipt statement overcharged money owe owed owing balance instalment', es: 'dos veces doble euros importe iva domiciliada recibos cobrado duplicado tarde pagar pago pagos pague cobro cobros cobraron cobran cargo cargos factura facturas recibo tarjeta reembolso reembolsen deposito fianza banco domiciliacion domiciliado transferencia dinero saldo cuota cuotas importe comprobante debo', fr: 'payer paiement facture prelevement carte remboursement caution banque recu', pl: 'platnosc zaplacic faktura oplata karta zwrot kaucja bank rachunek' },
  price: { en: 'afford charge term minimum total price prices cost costs costing much cheap cheaper expensive quote rate rates discount fee', es: 'precio precios cuesta costar cuanto vale sale tarifa barato caro descuento presupuesto', fr: 'prix cout combien tarif cher remise', pl: 'cena koszt kosztuje ile rabat' },
  buy: { en: 'towards count value final outright remaining left buy buying purchase purchasing bought own owning owner keep keeping buyout outright ours mine forever permanently', es: 'opcion total final descuentan comprar compra compro comprarlo quedar quedarnos quedarme quedarmelo propio nuestra mio propiedad adquirir siempre', fr: 'acheter achat garder', pl: 'kupic kupno wykupic zatrzymac wlasny' },
  deliver: { en: 'warehouse left address expected eta route post postman carrier van truck today tomorrow morning sent deliver delivered delivery deliveries courier parcel package order ordered dispatch dispatched dispatch ship shipped shipping shipment tracking track arrive arrived arrival arriving driver van waiting come turned', es: 'almacen direccion hoy manana salido salio enlace plazo envien mandado entrega entregar entregan envio envian enviado enviaron mensajero repartidor paquete pedido seguimiento rastrear llega llegar llego llegado esperando transportista furgoneta', fr: 'livraison livrer colis commande livreur suivi arriver expedition', pl: 'dostawa dostarczyc kurier paczka zamowienie sledzenie przesylka' },
  size: { en: 'tall short bigger-size full three adult child reach arms hands stretch heavy correct measure measured move size sizes bigger smaller larger big small large tiny outgrown outgrew grown grow swap exchange upgrade upsize fit fits short long half quarter', es: 'talla tamano tamanos medida grande pequeno pequena chico chica enorme mayor menor crecido cambiar cambio cuarto quedado corto', fr: 'taille grand petit echanger echange grandi', pl: 'rozmiar wiekszy mniejszy duzy maly wymiana wymienic wyrosl' },
  school: { en: 'primary secondary department county youth ensemble programme parents lessons lesson tuition many several dozen twenty thirty forty school schools teacher teachers teach teaching pupil pupils student students class classes classroom head headteacher orchestra band choir college academy conservatoire bulk set group', es: 'primaria secundaria departamento ensemble curso varios varias docena veinte treinta escuela escuelas colegio colegios profesor profesora profe aula clase clases alumno alumnos instituto conservatorio orquesta banda coro lote cantidad grupo', fr: 'ecole professeur eleve eleves classe orchestre conservatoire', pl: 'szkola szkoly nauczyciel uczen uczniowie klasa orkiestra' },
  open: { en: 'tonight today evening noon lunch lunchtime morning easter christmas easter monday until before after still visit open opening opens close closed closes closing hours hour times weekend weekends sunday saturday holiday holidays bank late early', es: 'hoy tarde manana mediodia navidad pascua hasta atencion local abierto abierta abren abre abrir cierran cierra cerrado horario horarios atienden domingo domingos sabado sabados festivo festivos fin semana', fr: 'ouvert ouvrez ouverture ferme fermeture horaires dimanche samedi', pl: 'otwarte otwarcia godziny zamkniete niedziela sobota' },
  place: { en: 'shop store showroom office branch workshop premises counter', es: 'tienda local oficina sucursal', fr: 'magasin boutique', pl: 'sklep biuro' },
  person: { en: 'connect transfer through anyone anybody help manager boss complaint team live voice customer service instead person human agent adviser advisor representative rep operator manager supervisor someone somebody people real talk speak speaking staff colleague call callback ring phone', es: 'pasar comunicar equipo ayuda jefe queja transferir atencion cliente verdad persona agente humano asesor asesora encargado encargada supervisor alguien hablar hablo comuniqueme paseme operador operadora llamar llamen llame telefono responsable', fr: 'personne humain conseiller agent responsable quelqu parler appeler', pl: 'czlowiek osoba konsultant konsultantem kierownik rozmawiac zadzwonic' },
  machine: { en: 'chatbot assistant menu press useless bot robot machine automated computer', es: 'maquina robot bot contestador', fr: 'robot machine', pl: 'robot automat maszyna' },
  where: { en: 'where', es: 'donde', fr: 'ou', pl: 'gdzie' }, when: { en: 'when', es: 'cuando', fr: 'quand', pl: 'kiedy' },
  late: { en: 'not never hasnt didnt received receive turn shown show late delayed delay still yet missing lost overdue yesterday supposed promised waiting nobody', es: 'nunca no llevo semana recibido aparecido paso pasado tarde retraso retrasado todavia aun falta perdido ayer quedaron nadie', fr: 'retard encore toujours perdu hier', pl: 'opoznienie jeszcze zaginela wczoraj' },
  not: { en: 'not no never dont wont doesnt cant isnt without t', es: 'no nunca ni sin', fr: 'ne pas jamais non sans', pl: 'nie nigdy bez' },
  howmuch: { en: 'how much many', es: 'cuanto cuanta cuantos', fr: 'combien', pl: 'ile' },
  child: { en: 'daughter son child kid kids girl boy grandson granddaughter', es: 'hija hijo nino nina nieto nieta', fr: 'fille fils enfant', pl: 'corka syn dziecko' },
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
