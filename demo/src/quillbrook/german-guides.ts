import { Chance } from '../random.ts';
import type { Guide } from './guides.ts';
import { TODAY } from './plants.ts';

type Text = readonly [title: string, summary: string, plants: string, ...sections: (readonly [string, string])[]];

const AUTHORS = ['Maren Tolliver', 'Henrike Moosbach', 'Jonte Wiesental', 'Ottilie Brandt'];
const LEVELS = ['erste Schritte', 'etwas Übung', 'erfahren'];

/** Articles that were written in German, by topic: what the growers of the other bank of the river have to say. */
const TEXTS: Readonly<Record<string, readonly Text[]>> = {
  Pflanzen: [
    [
      'Rosen pflanzen, wenn der Boden noch warm ist',
      'Warum der Herbst die bessere Pflanzzeit ist und wie tief die Veredelungsstelle sitzt.',
      'Rosa',
      ['Das Pflanzloch', 'Heben Sie das Loch doppelt so breit aus wie der Wurzelballen. Lockern Sie die Sohle mit der Grabegabel, damit sich keine Staunässe bildet.'],
      ['Die richtige Tiefe', 'Die Veredelungsstelle gehört eine Handbreit unter die Erde. Dort ist sie vor Kahlfrösten geschützt und treibt im Frühjahr kräftig aus.'],
    ],
    [
      'Frühlingszwiebeln setzen: doppelt so tief wie hoch',
      'Krokusse, Narzissen und Schneeglöckchen kommen vor dem ersten Frost in die Erde.',
      'Crocus, Narcissus, Galanthus',
      ['Eine Faustregel', 'Setzen Sie jede Zwiebel doppelt so tief, wie sie hoch ist. In schwerem Lehmboden hilft eine Schicht Sand unter der Zwiebel gegen Fäulnis.'],
      ['In Gruppen statt in Reihen', 'Werfen Sie die Zwiebeln aus der Hand auf die Wiese und pflanzen Sie sie, wo sie liegen. So wächst der Frühling, als hätte ihn niemand geplant.'],
    ],
    [
      'Einen Obstbaum pflanzen und anbinden',
      'Pfahl, Kokosstrick und Gießrand: die drei Dinge, die ein junger Apfelbaum braucht.',
      'Malus',
      ['Der Pfahl steht zuerst', 'Schlagen Sie den Baumpfahl ein, bevor der Baum im Loch steht. So bleiben die Wurzeln heil. Der Kokosstrick wird als Acht gebunden und darf nicht einschneiden.'],
      ['Der Gießrand', 'Ein kleiner Wall aus Erde hält das Wasser bei den Wurzeln. Zwei volle Gießkannen in der Woche sind im ersten Sommer nicht zu viel.'],
    ],
    [
      'Kletterpflanzen an der Hauswand',
      'Geißblatt, Clematis und Kletterrosen brauchen Abstand zur Mauer und kühle Füße.',
      'Lonicera, Clematis, Rosa',
      ['Abstand halten', 'Direkt an der Hauswand ist der Boden trocken, weil ihn kein Regen erreicht. Pflanzen Sie einen Schritt davon entfernt und leiten Sie die Triebe schräg zum Rankgitter.'],
      ['Kühle Füße', 'Eine Waldrebe blüht in der Sonne, doch ihre Wurzeln mögen Schatten. Ein flacher Stein oder ein Storchschnabel davor genügt.'],
    ],
  ],
  Schneiden: [
    [
      'Die Gartenschere: pflegen, schärfen, richtig ansetzen',
      'Ein sauberer Schnitt heilt schneller als jedes Wundmittel.',
      'Rosa, Hydrangea',
      ['Schärfen mit dem Wetzstein', 'Ziehen Sie die Klinge im flachen Winkel über den nassen Stein, immer in einer Richtung. Danach kommt ein Tropfen Öl in das Gelenk.'],
      ['Über dem Auge', 'Geschnitten wird knapp über einer Knospe, die nach außen zeigt, und leicht schräg, damit das Regenwasser abläuft.'],
    ],
    [
      'Hortensien schneiden, ohne die Blüten zu verlieren',
      'Bauernhortensien blühen am alten Holz, Rispenhortensien am neuen.',
      'Hydrangea',
      ['Am alten Holz', 'Bei Bauernhortensien nehmen Sie im März nur die vertrockneten Blütenstände ab. Die dicken Knospen darunter sind die Blumen dieses Sommers.'],
      ['Am neuen Holz', 'Rispenhortensien vertragen einen kräftigen Rückschnitt auf zwei Knospenpaare. Je stärker der Schnitt, desto größer die Rispen.'],
    ],
    [
      'Hecken schneiden, wenn die Vögel ausgeflogen sind',
      'Vor dem Johannistag bleibt die Heckenschere im Schuppen.',
      'Carpinus, Buxus, Taxus',
      ['Erst nachsehen', 'Schauen Sie in die Hecke, bevor Sie beginnen. Wo noch ein Nest besetzt ist, wartet der Formschnitt bis zum August.'],
      ['Unten breiter als oben', 'Eine Hecke, die sich nach oben verjüngt, bekommt bis zum Fuß Licht und wird unten nicht kahl.'],
    ],
    [
      'Lavendel zurückschneiden, jedes Jahr ein wenig',
      'Wer nie schneidet, hat nach fünf Jahren holzige Büsche.',
      'Lavandula',
      ['Nach der Blüte', 'Nehmen Sie die verblühten Stiele mit einem Drittel des Laubes ab. Ins kahle Holz wird nicht geschnitten, denn dort schlafen keine Augen mehr.'],
      ['Ein zweiter Schnitt im Frühling', 'Im April bringen Sie den Busch noch einmal in Form. Danach treibt er dicht und silbern aus.'],
    ],
  ],
  Gießen: [
    [
      'Richtig gießen in einem trockenen Sommer',
      'Selten und viel ist besser als täglich ein Schluck.',
      'Hosta, Phlox, Astilbe',
      ['Am Morgen', 'Gießen Sie früh und in den Boden, nicht auf die Blätter. Was nachts nass bleibt, lockt Schnecken und Mehltau.'],
      ['Die Fingerprobe', 'Stecken Sie den Finger bis zum zweiten Glied in die Erde. Ist sie dort noch feucht, hat das Beet keinen Durst.'],
    ],
    [
      'Regenwasser sammeln: von der Dachrinne in die Tonne',
      'Weiches Wasser für Rhododendren, Moorbeetpflanzen und Farne.',
      'Rhododendron, Dryopteris',
      ['Die Regentonne', 'Ein Fallrohrfilter hält Laub und Moos zurück. Ein Deckel hält Mücken fern und Kinder draußen.'],
      ['Wem es guttut', 'Kalkarmes Wasser mögen alle Pflanzen, die sauren Boden lieben. Auch Zimmerfarne danken es mit Wedeln ohne braune Spitzen.'],
    ],
    [
      'Zimmerpflanzen im Urlaub: drei Wochen ohne Gießkanne',
      'Kapillarmatte, Tonkegel und ein schattiges Fenster.',
      'Ficus, Monstera, Sansevieria',
      ['Zusammenrücken', 'Stellen Sie alle Töpfe dicht beieinander in ein kühles, helles Zimmer. Die Pflanzen befeuchten sich gegenseitig die Luft.'],
      ['Der Tonkegel', 'Ein Kegel aus gebranntem Ton zieht Wasser aus einem Eimer, so viel wie die Erde verlangt. Probieren Sie es eine Woche vor der Reise.'],
    ],
    [
      'Sukkulenten gießen: lieber gar nicht als zu oft',
      'Agaven, Aloen und Hauswurz tragen ihr Wasser bei sich.',
      'Agave, Aloe, Sempervivum',
      ['Erst wenn der Topf leicht ist', 'Heben Sie den Topf an. Solange er schwer ist, braucht die Agave nichts. Im Winter genügt ein halbes Glas im Monat.'],
      ['Ablaufen lassen', 'Gießen Sie durchdringend und leeren Sie nach zehn Minuten den Untersetzer. Wurzeln, die im Wasser stehen, faulen.'],
    ],
  ],
  Vermehren: [
    [
      'Stecklinge schneiden und bewurzeln',
      'Aus einem Fuchsientrieb werden bis zum Herbst fünf Pflanzen.',
      'Fuchsia, Pelargonium',
      ['Der Kopfsteckling', 'Schneiden Sie einen handlangen Trieb unter einem Blattpaar ab und nehmen Sie die unteren Blätter weg. Blüten kosten nur Kraft.'],
      ['Unter der Haube', 'Anzuchterde, ein Glas darüber, ein heller Platz ohne Mittagssonne: nach drei Wochen zeigt neues Laub, dass Wurzeln da sind.'],
    ],
    [
      'Stauden teilen: aus alt mach drei',
      'Funkien, Taglilien und Schafgarben blühen nach der Teilung wieder wie jung.',
      'Hosta, Hemerocallis, Achillea',
      ['Ausgraben und zerlegen', 'Heben Sie den ganzen Horst im September aus. Zwei Grabegabeln, Rücken an Rücken, trennen auch einen alten Wurzelstock.'],
      ['Die Mitte wegwerfen', 'Gepflanzt werden die jungen Stücke vom Rand. Die verholzte Mitte kommt auf den Kompost.'],
    ],
    [
      'Tomaten aus eigenem Saatgut',
      'Wie man Samen gewinnt, trocknet und bis zum März aufhebt.',
      'Solanum',
      ['Gären lassen', 'Drücken Sie die Samen einer reifen Frucht in ein Glas Wasser. Nach drei Tagen löst sich die Hülle, und die guten Körner sinken zu Boden.'],
      ['Trocknen', 'Auf einem Teller, nicht auf Papier: Küchenpapier klebt. Beschriftet in einer Tüte hält das Saatgut vier Jahre.'],
    ],
    [
      'Ein Apfelbaum wird veredelt',
      'Kopulation heißt: Reis und Unterlage passen zusammen wie zwei Hälften.',
      'Malus',
      ['Das Edelreis', 'Geschnitten wird es im Januar und liegt bis zum März in feuchtem Sand im Keller. Bleistiftstark soll es sein.'],
      ['Der Schnitt', 'Zwei gleich lange, schräge Schnitte, aufeinandergelegt und mit Bast verbunden. Baumwachs schließt die Wunde.'],
    ],
  ],
  Schädlinge: [
    [
      'Schnecken im Gemüsebeet: was wirklich hilft',
      'Morgens gießen, abends sammeln und den Laufenten danken.',
      'Lactuca, Hosta',
      ['Weniger Verstecke', 'Bretter und Steine sind das Tagesquartier der Nacktschnecken. Legen Sie absichtlich eines aus und drehen Sie es jeden Morgen um.'],
      ['Ein Zaun', 'Ein Schneckenzaun aus Blech mit umgebogener Kante ist teuer und hält dreißig Jahre.'],
    ],
    [
      'Blattläuse an Rosenknospen',
      'Der Marienkäfer kommt, wenn man ihn lässt.',
      'Rosa',
      ['Abwarten', 'Eine Woche nach den Läusen kommen die Larven der Marienkäfer. Wer vorher spritzt, nimmt ihnen das Futter.'],
      ['Ein Wasserstrahl', 'Wo es zu viele werden, hilft ein scharfer Strahl aus dem Gartenschlauch, drei Tage hintereinander.'],
    ],
    [
      'Mehltau erkennen und vorbeugen',
      'Weißer Belag oben auf dem Blatt ist echter Mehltau, grauer darunter falscher.',
      'Phlox, Cucumis',
      ['Luft und Licht', 'Pflanzen Sie weiter auseinander, als es zuerst schön aussieht. Blätter, die rasch trocknen, werden selten krank.'],
      ['Was weg muss', 'Befallene Blätter gehören in die Tonne, nicht auf den Kompost. Die Schere wird danach mit Spiritus abgewischt.'],
    ],
    [
      'Trauermücken in der Blumenerde',
      'Kleine schwarze Fliegen heißen fast immer: zu nass.',
      'Ficus, Begonia',
      ['Trocken halten', 'Lassen Sie die obere Erdschicht zwischen zwei Wassergaben ganz abtrocknen. Eine Lage Quarzsand darauf versperrt den Weg.'],
      ['Gelbtafeln', 'Sie fangen die Fliegen und zeigen, ob es weniger werden. Die Larven treffen sie nicht.'],
    ],
  ],
  Gartenjahr: [
    [
      'Der Garten im November',
      'Laub rechen, Dahlien ausgraben, Wasserhähne abstellen.',
      'Dahlia',
      ['Laub ist kein Abfall', 'Unter Sträuchern darf es liegen bleiben: dort schläft der Igel. Nur vom Rasen muss es herunter.'],
      ['Dahlienknollen', 'Nach dem ersten Frost kommen sie aus der Erde, werden kopfüber getrocknet und liegen dann in einer Kiste mit Sand.'],
    ],
    [
      'Winterschutz für Kübelpflanzen',
      'Jute, Styroporplatte und ein Platz an der Hauswand.',
      'Olea, Laurus, Agave',
      ['Von unten kommt die Kälte', 'Stellen Sie den Kübel auf Holz oder Styropor. Erfrorene Wurzeln vertrocknen mitten im Winter.'],
      ['Nicht zu warm', 'Im geheizten Wohnzimmer treibt der Ölbaum bleiche Triebe. Ein kühles Treppenhaus ist besser.'],
    ],
    [
      'Rasenpflege im Frühling',
      'Vertikutieren, nachsäen, düngen: in dieser Reihenfolge.',
      'Lolium, Festuca',
      ['Der erste Schnitt', 'Gemäht wird, wenn das Gras eine Handbreit hoch ist, und nur um ein Drittel. Danach kommt der Vertikutierer zum Einsatz.'],
      ['Kahle Stellen', 'Rasensaat braucht zwei Wochen lang feuchte Erde. Ein wenig Kompost darüber hält sie fest.'],
    ],
    [
      'Ein Hochbeet anlegen, das von innen wärmt',
      'Äste, Laub, Kompost, Erde: jede Schicht hat ihre Aufgabe.',
      'Lactuca, Solanum',
      ['Die Schichten', 'Unten liegt grober Astschnitt, darauf Laub und halbreifer Kompost, oben zwei Handbreit gute Gartenerde.'],
      ['Im ersten Jahr', 'Die Verrottung wärmt. Starkzehrer wie Tomaten, Kürbis und Kohl nutzen das am besten.'],
    ],
  ],
}; // prettier-ignore

/** All German articles, always the same ones. */
export function makeGermanGuides(): Guide[] {
  const all = Object.entries(TEXTS).flatMap(([topic, texts]) => texts.map((text) => ({ topic, text })));
  return all.map(({ topic, text: [title, summary, plants, ...sections] }, n) => {
    const id = `A-${String(n + 1).padStart(3, '0')}`;
    const chance = new Chance(`anleitung ${id}`);
    const words = sections.reduce((sum, [, text]) => sum + text.split(/\s+/).length, 0);
    return {
      id,
      title,
      summary,
      topic,
      plants: plants.split(', '),
      author: chance.pick(AUTHORS),
      published: new Date(TODAY - chance.whole(3, 2200) * 86_400_000).toISOString().slice(0, 10),
      reading_minutes: Math.max(1, Math.round(words / 30)),
      level: chance.pick(LEVELS),
      sections: sections.map(([heading, text]) => ({ heading, text })),
      url: `https://quillbrook.example/de/anleitungen/${id.toLowerCase()}`,
    };
  });
}
