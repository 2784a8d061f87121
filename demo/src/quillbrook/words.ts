import type { Genus } from './genera.ts';

/** "an agave", "a rose". */
export function withArticle(text: string): string {
  return /^[aeio]|^u(?!n?i)/i.test(text) ? `an ${text}` : `a ${text}`;
}

/** The plural of a plant group. */
export function plural(group: string): string {
  if (/(anthus|hibiscus|coral bells|box|clematis|poinsettia|citrus)$/.test(group)) return group;
  if (group.endsWith('cactus')) return group.replace(/us$/, 'i');
  if (/[^aeiou]y$/.test(group)) return group.replace(/y$/, 'ies');
  return /(s|sh|ch|x)$/.test(group) ? `${group}es` : `${group}s`;
}

/** The stock of phrases Quillbrook writes its texts from. Patterns are read by Chance.say. */

export const CULTIVAR_FIRST = ['Amber', 'Ashen', 'Autumn', 'Bantry', 'Bellmere', 'Bright', 'Bramble', 'Candle', 'Chalk', 'Cinder', 'Clover', 'Copper', 'Coral', 'Dapple', 'Dusk', 'Ember', 'Evening', 'Feather', 'Fenland', 'Flint', 'Frosted', 'Garnet', 'Gilded', 'Glasshouse', 'Hazel', 'Heron', 'Honey', 'Inkwell', 'Ivory', 'Jackdaw', 'Juniper', 'Kestrel', 'Lantern', 'Lark', 'Linnet', 'Lowland', 'Magpie', 'Marble', 'Meadow', 'Midsummer', 'Mill', 'Moss', 'Nightjar', 'Opal', 'Orchard', 'Paper', 'Pebble', 'Penny', 'Quill', 'Russet', 'Saffron', 'Silver', 'Sparrow', 'Starling', 'Tawny', 'Thistle', 'Velvet', 'Wicket', 'Willow', 'Winter']; // prettier-ignore
export const CULTIVAR_SECOND = ['Anthem', 'Arrow', 'Ballad', 'Banner', 'Beacon', 'Bell', 'Bounty', 'Brook', 'Button', 'Cascade', 'Charm', 'Chorus', 'Cloud', 'Dancer', 'Dawn', 'Drum', 'Echo', 'Fable', 'Fan', 'Fire', 'Flame', 'Flute', 'Glow', 'Halo', 'Harbour', 'Haze', 'Hush', 'Jewel', 'Kite', 'Lace', 'Lamp', 'Light', 'Maiden', 'Mantle', 'Mist', 'Moon', 'Parade', 'Pearl', 'Queen', 'Rain', 'Ribbon', 'Ripple', 'Robe', 'Shadow', 'Sigh', 'Skirt', 'Song', 'Spark', 'Spire', 'Sprite', 'Star', 'Storm', 'Sun', 'Tassel', 'Thimble', 'Tide', 'Token', 'Veil', 'Waltz', 'Wren']; // prettier-ignore

export const MONTHS = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December']; // prettier-ignore

export const PLACING: Record<Genus['light'], string[]> = {
  'full sun': [
    '[Give it|It wants|Find it] [the sunniest spot you have|a place in full sun|sun from breakfast to tea], [and it will repay you with|for] [sturdy|compact|short-jointed] growth',
    'Plant {name} where the sun [lingers|falls from noon on|warms the soil early]; in shade it [stretches and sulks|flowers thinly|leans and flops]',
    '[A south wall|A gravel bed|The front of a hot border] is where {name} [looks its best|earns its keep|feels at home]',
    'Six hours of [direct|unbroken] sun [is the least it asks for|keep it dense and well coloured]',
  ],
  'part shade': [
    '[Dappled light under|The east side of] [a birch|an apple tree|a hedge] [suits it to perfection|is close to what it has in the wild]',
    '{name} [likes morning sun and a cool afternoon|is happiest with half a day of sun|takes sun or shade, and does best between the two]',
    '[Keep it out of|Spare it] the [fierce midday sun|hottest hours], which [bleaches its colour|scorches the leaf edges]',
  ],
  shade: [
    '[One of the few that|A plant that] [thrives|keeps its colour] where the sun [hardly comes|never reaches]: [under trees|behind the house|on a north-facing sill|in a dim corner]',
    '[Shade|A cool, shaded spot] brings out [the depth of its leaves|its best]; sun [burns it|makes it pale]',
    'Use {name} to [light up|soften|fill] [a dark corner|the foot of a north wall|the ground beneath shrubs]',
  ],
  'bright indirect': [
    '[Stand it a step back from|Place it near] a bright window, [out of the direct sun|behind a thin curtain]',
    '[Bright light without direct sun|A light room] keeps the leaves [large|even|glossy]; [turn the pot now and then|give the pot a quarter turn each week]',
    'A spot [by an east window|a metre from a south window] is [ideal|what {name} likes best]',
  ],
};

export const WATERING: Record<Genus['water'], string[]> = {
  sparing: [
    '[Water it deeply and seldom|Let the soil dry out completely before you water again]; [more are lost to kindness than to drought|wet feet in winter are its one enemy]',
    '[Once settled|After its first summer] it [needs no watering|gets by on rain]',
    '[Add grit|Add a third of sharp sand] to the [compost|soil] so that [water never stands|the roots stay dry in winter]',
  ],
  moderate: [
    'Water when the [top of the soil|first finger-joint of soil] [is dry|has dried]',
    '[Keep it evenly moist|Water it well] [in its first season|while it grows], [less|and ease off] [in winter|when growth slows]',
    'It [forgives|shrugs off] a [missed|forgotten] watering, [but not two|though the buds may not]',
  ],
  generous: [
    '[Never let it dry out|Keep the soil moist at all times], [above all in pots|most of all in a warm spring]',
    'It is thirsty: [a full can twice a week in high summer|a saucer of water on hot days] [is not too much|keeps it upright]',
    '[A thick mulch|A layer of leaf mould] [holds the moisture it craves|saves half the watering]',
  ],
};

export const CARE_MORE = [
  '[Cut it back|Trim it lightly] [after flowering|in early spring|once the worst frosts are over] to keep it [shapely|bushy|from sprawling]',
  'Feed [every second week from April to August|once in spring with a slow fertiliser|with a handful of garden compost] and [no more|leave it at that]',
  '[Divide|Lift and split] it every [three|four] years, [in autumn|when the middle grows bare]',
  'Slugs [leave it alone, which is more than can be said of its neighbours|may try the young leaves, so go out with a torch|like it as much as you will: ring it with grit until it is a hand high]',
  '[Repot|Pot it on] [when roots show at the holes|every other spring], [one size up|into a pot just two fingers wider]',
  'Take [cuttings in July|offsets in spring|a few tip cuttings]; they root [in a fortnight|in a glass of water|in sandy compost without fuss]',
  '[Bees come to it from dawn|Hoverflies find it within the hour|Butterflies settle on it in August], [so keep sprays away|and we would grow it for that alone]',
  'It [combines well with|looks well beside] [silver foliage|pale grasses|dark heucheras|anything blue|ferns and stone]',
  '[Shelter it from cold wind, most of all when it is young|Keep it from drying winds, which do more harm than frost]',
  'Remove [spent flowers|yellow leaves] as you pass; [it keeps new ones coming|nothing else is needed]',
  '[In a cold winter|When hard frost threatens] [cover the crown with dry leaves|bring pots close to the house|lay fleece over it for the night]',
  'Its scent is [strongest in the evening|faint until the sun is on it|best near a door], [a little like honey|sharp and clean|between cloves and tea]',
  'We [raised|grew on] this batch [in peat-free compost|without heating|from our own stock plants] and [it shows in the roots|sell nothing before it is rooted through]',
  'Expect {height} cm [in three years|when grown], [more in rich soil|less in a pot], and about {spread} cm across',
  '[It came to us from|We first saw it in] [an old walled garden|a cottage row|a neighbour’s orchard] and [have grown it since|would not be without it]',
];

export const OPENING = [
  '{Name} is [a good doer|an old favourite|one we reach for often|a plant with manners]: [{trait}|long-lived and {trait}|{trait}, and never a nuisance]',
  '[Grown for|Loved for|Bought for] its {feature}, {cultivar} [is|stays] [{trait}|reliably {trait}]',
  '{ATrait} {group} with {feature}; [ours are two years old|potted this spring|sold in leaf]',
  '{cultivar} [stands out|differs from the species] by its {feature}',
  'If you [have room for one {group}|are new to {groups}|think you know {groups}], [make it this one|start here|look again]',
  '[Few plants give|Nothing gives] so much for so little: {feature}, [and {aTrait} habit|from {aTrait} plant]',
];

export const TRAITS = ['upright', 'compact', 'spreading', 'slow', 'vigorous', 'tidy', 'easy-going', 'long-lived', 'dense', 'airy', 'sturdy', 'graceful', 'drought-proof', 'quick to settle']; // prettier-ignore

export const SUPPLIERS: readonly (readonly [string, string])[] = [
  ['S-01', 'Tidewell Nurseries'], ['S-02', 'Marrow & Vane'], ['S-03', 'Hollin Bank Growers'], ['S-04', 'The Potting Shed at Orme'],
  ['S-05', 'Fallowfield Bulbs'], ['S-06', 'Greyling Glasshouses'], ['S-07', 'Wickerham Trees'], ['S-08', 'Ashlar & Daughters'],
  ['S-09', 'Quillbrook Own Stock'], ['S-10', 'Pennyroyal Herbs'], ['S-11', 'Brackenthwaite Ferns'], ['S-12', 'Old Larder Fruit'],
]; // prettier-ignore
