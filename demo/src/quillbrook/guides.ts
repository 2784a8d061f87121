import { capital, Chance } from '../random.ts';
import { GENERA, type Genus } from './genera.ts';
import { TODAY } from './plants.ts';
import { MONTHS, PLACING, plural, WATERING, withArticle } from './words.ts';

/** A growing article, as it goes into the collection `guides`. */
export interface Guide {
  id: string;
  title: string;
  summary: string;
  topic: string;
  plants: string[];
  author: string;
  published: string;
  reading_minutes: number;
  level: string;
  sections: { heading: string; text: string }[];
  url: string;
}

interface Topic {
  topic: string;
  titles: string[];
  summary: string;
  sections: [heading: string, ...paragraphs: string[]][];
}

const AUTHORS = ['Maren Tolliver', 'Idris Pell', 'Sunniva Crake', 'Osei Langmere', 'Beatrix Fenn', 'Tomas Wherry', 'Anwen Sallow', 'Ruth Okonedale']; // prettier-ignore

const TOPICS: Topic[] = [
  {
    topic: 'Planting',
    titles: ['Planting {groups} [that stay put|the right way round|without regret]', 'A good start for your {group}', '[When and how|How deep, how far apart]: planting {groups}'],
    summary: '[Where|When] to plant {groups}, [how deep|how far apart], and [what to do in the first month|what to leave alone].',
    sections: [
      ['Choose the place first', '{placing}. [Walk round the garden at noon|Look at the spot at three times of the day] before you dig: {aGroup} [moved twice|planted in haste] [never forgives|loses a year].', '[Good drainage matters more than good soil|Soil can be mended, light cannot]. [Pour a can of water into the hole|Fill the hole with water]; if it [still stands after an hour|has not gone by tea], [raise the bed|dig in grit] [by a hand’s width|before anything else].'],
      ['Dig wide, not deep', 'The hole should be [twice|three times] as wide as the [root ball|pot] and [no deeper|just as deep]. [Loosen the sides with a fork|Rough up the walls], so that the roots [find their way out|do not circle].', 'Set the {group} so that [the top of the root ball|its crown] sits [level with the soil|a finger above the ground]; [it will settle|heavy soil sinks more than you think].'],
      ['The first weeks', '{watering}. [Leave feeding until growth shows|Do not feed yet]: [hungry roots explore|roots that search are roots that hold].', '[Mulch, but keep it off the stems|A mulch of bark keeps weeds down], and [look each morning for slugs|check the ties after wind].'],
    ],
  },
  {
    topic: 'Pruning',
    titles: ['Pruning {groups}: [less is more|three cuts that matter|what to cut, what to keep]', 'How to prune {aGroup} without [fear|killing it]', 'The {group} after the shears'],
    summary: 'What to cut on {aGroup}, [in which month|when to do it], and [what never to touch|why the old wood matters].',
    sections: [
      ['The right moment', 'Prune in {month}, [on a dry day|when no frost is forecast]. [Too early, and new growth freezes|Too late, and you cut off next year’s flowers].', '{AGroup} [flowers on new wood|tells you when it is ready]: [buds swell|the sap rises|growth begins low down] [and that is your sign|a week or two before the cut].'],
      ['Three kinds of cut', 'First take what is [dead, broken or sick|brown when you scratch it]. Then what [crosses and rubs|grows inwards]. [Only then|Last of all] [shape what is left|step back and think about the outline].', 'Cut [just above a bud that looks outwards|to a pair of strong buds], [at a slant|clean and once]; [a torn edge|a stub] [invites rot|heals badly].'],
      ['Afterwards', '[Rake up what fell|Burn or bin whatever was sick]. {watering}.', '[If you cut too much, wait|Should it sulk, do nothing for a month]: {groups} [come back from worse|are tougher than they look].'],
    ],
  },
  {
    topic: 'Watering',
    titles: ['How much water does {aGroup} want?', 'Watering {groups} [in a dry summer|by weight, not by the clock]', 'The thirsty {group}, and other myths'],
    summary: 'Reading the soil, [the leaves|the weight of the pot], and [knowing when to stop|watering less often and better].',
    sections: [
      ['Read the soil', '[Push a finger in|Lift the pot]: [dry to the first joint means water|light means dry]. [Calendars do not know the weather|No schedule fits two summers].', '{watering}.'],
      ['How to pour', '[Water the soil, not the leaves|Aim low and slow]; [a can with a fine rose|a slow trickle for ten minutes] [reaches where roots are|beats a flood].', '[Mornings are best|Early is better than late]: [what stays wet overnight|a damp crown at night] [asks for mildew|feeds slugs].'],
      ['Signs of too little and too much', '[Limp leaves mean either|Wilting tells you only that something is wrong]. [Feel before you pour|Look at the soil first]. [Yellow from below is too much|Crisp edges are too little].', '{AGroup} that has [dried out completely|been left over a holiday] [should stand in a bucket for an hour|drinks best from below].'],
    ],
  },
  {
    topic: 'Propagation',
    titles: ['More {groups} from one', 'Cuttings, seed or division? [Raising|Growing] your own {groups}', 'Free {groups} for your neighbours'],
    summary: '[Three ways|The surest way] to make new {groups}, with [what can go wrong|the months for each].',
    sections: [
      ['What you need', '[A sharp knife, a clean pot|Clean secateurs, small pots] and [sandy compost|half sand, half compost]. [No powder, no heat|A bag over the pot helps], [and patience|and a label with the date].', 'Take material from a [healthy|young and well-fed] {group}, [early in the day|in {month}], [never in flower|with the leaves dry].'],
      ['Step by step', '[Cut below a leaf joint|Choose a shoot as long as your hand] and [strip the lower half|leave three leaves]. [Push it in as far as the leaves|Set four round the edge of a pot], [firm it|water once] and [shade it|wait].', '[Roots show in three weeks|Tug gently after a month]: [if it holds, it has rooted|resistance means roots].'],
      ['The first winter', '[Keep young plants under glass|A cold frame is enough] [with the lid ajar|and air them on mild days]. {watering}.', '[One in three fails|Not all will take]; [make more than you need|give the rest away].'],
    ],
  },
  {
    topic: 'Pests and problems',
    titles: ['What is eating my {group}?', 'Yellow leaves on {groups}: [five causes|what they tell you]', '{Group} troubles, [from aphids to root rot|and what really helps]'],
    summary: '[Finding out|How to tell] what ails {aGroup}, [and the gentlest cure that works|before you reach for a spray].',
    sections: [
      ['Look before you treat', '[Turn a leaf over|Use a hand lens]. [Holes with slime are slugs|Fine webs are red spider mite]; [sticky leaves are aphids|white wool is mealybug]; [notched edges are weevils|silver streaks are thrips].', '[Most spots are weather|A single yellow leaf is age], [not illness|and no cause for alarm].'],
      ['The gentle ways first', '[Wash it off with water|Pick them off by torchlight]. [Soapy water, twice, a week apart|A soft brush and patience] [clears a light attack|is enough for a houseplant].', '[Ladybirds need something to eat|If you spray, the helpers die too]: [wait a week|leave a few aphids].'],
      ['When it is the roots', '[Tip it out|Knock the plant from its pot]. [White roots are well|Brown and soft means rot]. [Cut to sound tissue|Shake off the wet soil], [repot in fresh, gritty compost|dust with nothing, pot it dry]. {placing}.', '{watering}.'],
    ],
  },
  {
    topic: 'Containers',
    titles: ['{Groups} in pots', '{AGroup} for the balcony', '[Small space, big pot|One pot, one plant]: {groups} in containers'],
    summary: 'Pots, compost and feeding for {groups} [where there is no soil|on a balcony or step].',
    sections: [
      ['The pot', '[Clay breathes|Clay is heavy and kind to roots]; [glazed pots hold water|plastic is lighter on a balcony]. [Whatever you choose|Above all], [it needs holes|raise it on feet].', 'For {aGroup}, [start two fingers wider than the roots|do not overpot]: [wet, empty compost sours|a big pot stays wet too long].'],
      ['Compost and feed', '[Peat-free compost with a third of grit|Loam-based compost] [keeps its structure|drains and still holds]. [Feed from April|Begin feeding six weeks after potting], [weakly and weekly|at half the strength on the bottle].', '{watering}.'],
      ['Through the year', '{placing}. In {month} [turn it|top-dress with fresh compost]. [In frost|Before the first hard night] [stand it by the wall|wrap the pot, not the plant].', '[After three years|When water runs straight through] [it wants a new pot|slice off a third of the roots and start again].'],
    ],
  },
  {
    topic: 'Choosing',
    titles: ['Which {group} is right for you?', 'Choosing {groups}: [what the label does not say|size, light, temper]', 'Our favourite {groups}, and why'],
    summary: '[Species by species|Height, light and hardiness]: [how to choose {aGroup}|finding {aGroup} that will like your garden].',
    sections: [
      ['Begin with light', '{placing}. [If you cannot offer that|Should the light be wrong], [choose something else|no care will make up for it].', '[Among {groups}|Of the ones we grow], {species} [is the most forgiving|is where we would begin]; {species2} [wants a little more care|is for the second year].'],
      ['Think of its grown size', '{AGroup} in a nine-centimetre pot [looks alike with all the rest|tells you nothing]: expect [anything from {low} to {high} cm|up to {high} cm] [in time|with good soil].', '[Leave the gap|Plant wide and fill with annuals]; [crowded plants|neighbours that touch] [sicken together|fight for water].'],
      ['Buy well', '[Look at the roots|Tip it from the pot, if they let you]: [white at the edge, not circling|you should see soil and roots]. [Flowers on the day mean little|Leave the one in full bloom], [fat buds mean more|take the one in bud].', '{watering}.'],
    ],
  },
  {
    topic: 'Through the seasons',
    titles: ['The {group} year', '{Groups} in {month}', 'Getting {groups} through the winter'],
    summary: '[Month by month|From spring to winter] with {groups}: [jobs, and when to do none|what to do and what to leave].',
    sections: [
      ['Spring', '[Clear away the winter’s leaves|Begin when the soil no longer clings to your boots]. [Feed lightly|Top-dress], [and check for late frost|but keep fleece at hand until May].', '{placing}.'],
      ['Summer', '{watering}. [Deadhead as you pass|Tie in what has grown], and [leave some for the bees|let a few set seed].', '[In {month}|At midsummer] {aGroup} [is at its best|shows what you did in spring].'],
      ['Autumn and winter', '[Stop feeding by September|Let growth harden]. [Stems left standing|Seed heads] [shelter ladybirds|catch the frost beautifully].', '[Hard frost|Cold wet soil] [kills more than cold alone|is the real danger]: [keep the crown dry|lay a pane of glass over it].'],
    ],
  },
]; // prettier-ignore

/** Sections that fit every topic; each article gets two. */
const ASIDES: Topic['sections'] = [
  ['What we have learned the slow way', '[For years we fussed over our {groups}|We lost a whole bench of {groups} once], and [the cause was a saucer nobody emptied|the ones behind the shed, forgotten, did best]. [Since then we write down|Now we note] [when each pot was last watered|what the weather did], [and mostly do less|which settles most arguments].', '[A neighbour of ours|An old customer] [swears by rainwater|talks to hers every morning]; [her {groups} are the best on the lane|we cannot say it does harm]. [What surely helps|The one thing we are sure of] [is looking, daily|is good light].'],
  ['Good company', '[Plant it with|Set beside it] [low thyme and grey sage|ferns and pale foxgloves|grasses that move|nothing taller than your knee], [so that its stems are hidden|and let them run into each other]. [{AGroup} alone|One plant by itself] [looks lost|looks like an afterthought]; [three|five] [make a picture|read as one].', '[Avoid thirsty neighbours|Keep mint well away], [which win every contest below ground|for it takes the water and the room].'],
  ['The tools, such as they are', '[A hand fork, a bucket|A good knife and a label] and [string|an old spoon] [are all you need|will do]. [Clean the blade with spirit|Wipe the blade] [between plants|when you are done], [as illness travels on steel|and oil it before winter].', 'Write the name and the date on [the back of the label|a slate]: [pencil lasts longer than ink|in three years you will be glad].'],
  ['A word about soil', '[Take a handful and press it|Squeeze some in your fist]: [if it keeps its shape and shines, it is clay|if it falls apart at once, it is sand]. [Clay wants air|Both want compost]: [fork in leaf mould each autumn|a barrow a square metre, every year], [and never walk on it wet|and let the worms do the digging].', '{AGroup} [is not fussy|tolerates most soils], [but hates standing water|so long as water runs off].'],
  ['If you have ten minutes', '[Deadhead|Pick off yellow leaves], [look under three leaves|lift one pot], [pull the weeds you can reach from the path|water what is lightest], and [stop|sit down]. [Little and often|Ten minutes most days] [beats one long Saturday|is how good gardens are made].', '[Bring a cup of tea|Leave the telephone indoors]: [you see more when you are not working|half of gardening is noticing].'],
  ['Questions we are asked', '[Will it come back next year?|Is it safe with cats?|Why does mine not flower?] [Often it is too dark|Most often the answer is patience]; [see the label for hardiness and pets|our labels say so in plain words]. [If in doubt|Should you be unsure], [bring a leaf to the counter|send us a picture of the whole plant, pot included].', '[And yes|No], you [may move it|need not feed it in winter]; [do it in {month}|the roots are asleep].'],
]; // prettier-ignore

/** All articles, always the same ones. */
export function makeGuides(count: number): Guide[] {
  const order = new Chance('quillbrook guides');
  const pairs = order.shuffled(TOPICS.flatMap((topic) => GENERA.map((genus) => ({ topic, genus }))));
  return pairs
    .slice(0, count)
    .map(({ topic, genus }, n) => makeGuide(`G-${String(n + 1).padStart(3, '0')}`, topic, genus));
}

function makeGuide(id: string, { topic, titles, summary, sections }: Topic, genus: Genus): Guide {
  const chance = new Chance(`guide ${id}`);
  const [first, second] = chance.shuffled(genus.species);
  const month = MONTHS[(genus.months?.[0] ?? 4) - 1]!;
  const write = (pattern: string): string => {
    const facts: Record<string, string | number> = { group: genus.group, Group: capital(genus.group), groups: plural(genus.group), Groups: capital(plural(genus.group)), aGroup: withArticle(genus.group), AGroup: capital(withArticle(genus.group)), month, species: first!.botanical, species2: (second ?? first!).botanical, low: genus.heightCm[0], high: genus.heightCm[1] }; // prettier-ignore
    const nested = pattern.replace('{placing}', () => capital(chance.pick(PLACING[genus.light]))).replace('{watering}', () => capital(chance.pick(WATERING[genus.water]))); // prettier-ignore
    return tidy(chance.say(nested, { ...facts, name: genus.group }));
  };
  const written = [...sections, ...chance.some(ASIDES, 3)].map(([heading, ...paragraphs]) => ({
    heading,
    text: paragraphs.map(write).join('\n\n'),
  }));
  const words = written.reduce((sum, { text }) => sum + text.split(/\s+/).length, 0);
  const title = capital(write(chance.pick(titles)));
  return {
    id,
    title,
    summary: capital(write(summary)),
    topic,
    plants: [genus.genus, ...genus.species.map(({ botanical }) => botanical)],
    author: chance.pick(AUTHORS),
    published: new Date(TODAY - chance.whole(3, 2200) * 86_400_000).toISOString().slice(0, 10),
    reading_minutes: Math.max(2, Math.round(words / 60)),
    level: chance.pick(['first steps', 'some practice', 'experienced']),
    sections: written,
    url: `https://quillbrook.example/guides/${title
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '')}`,
  };
}

/** A capital after each full stop: sentences are put together from parts that do not know where they will stand. */
function tidy(text: string): string {
  return text.replace(/([.?!]\s+)([a-z])/g, (_, stop: string, letter: string) => stop + letter.toUpperCase());
}
