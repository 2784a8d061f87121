/** How a plant grows: decides its picture and part of its text. */
export type Form =
  | 'rosette' | 'cactus' | 'palm' | 'foliage' | 'trailing' | 'fern' | 'grass' | 'spire' | 'daisy' | 'bulb' | 'mound'
  | 'shrub' | 'rose' | 'climber' | 'tree' | 'conifer' | 'fruit' | 'herb' | 'vegetable' | 'iris' | 'umbel'; // prettier-ignore

export interface Species {
  botanical: string;
  common: string[];
}

export interface Genus {
  genus: string;
  /** What a customer calls the whole group. */
  group: string;
  category: string;
  form: Form;
  light: 'full sun' | 'part shade' | 'shade' | 'bright indirect';
  water: 'sparing' | 'moderate' | 'generous';
  /** Lowest temperature it stands, in °C. */
  hardyToC: number;
  heightCm: [number, number];
  colours: string[];
  /** First and last month of flowering, 1 to 12; null when flowers are no reason to buy it. */
  months: [number, number] | null;
  petSafe: boolean;
  species: Species[];
}

// genus | group | category | form | light | water | hardy to | height | colours | months | pet safe | species=names; …
// Botanical and common names are facts; everything else about the sale items is made up.
const TABLE = `
Agave|agave|Outdoor > Architectural > Agaves|rosette|sun|low|-5|40-160|blue-green,grey,cream|-|n|americana=century plant,maguey;parryi=artichoke agave;attenuata=foxtail agave;victoriae-reginae=royal agave
Aloe|aloe|Indoor > Succulents > Aloes|rosette|sun|low|2|20-80|orange,red,green|6-8|n|vera=aloe vera,medicine plant;arborescens=candelabra aloe,torch aloe;aristata=lace aloe;polyphylla=spiral aloe
Echeveria|echeveria|Indoor > Succulents > Echeverias|rosette|sun|low|5|5-20|pink,blue-green,grey|5-7|y|elegans=mexican snowball;agavoides=lipstick echeveria;setosa=mexican firecracker;pulvinata=plush plant
Haworthia|haworthia|Indoor > Succulents > Haworthias|rosette|bright|low|5|5-18|green,white|-|y|attenuata=zebra plant;cooperi=window haworthia;limifolia=fairy washboard
Sempervivum|houseleek|Outdoor > Rock garden > Houseleeks|rosette|sun|low|-20|5-15|red,green,purple|6-7|y|tectorum=common houseleek,hens and chicks;arachnoideum=cobweb houseleek;montanum=mountain houseleek
Crassula|crassula|Indoor > Succulents > Crassulas|foliage|sun|low|4|20-100|green,pink|3-5|n|ovata=jade plant,money tree;perforata=string of buttons;capitella=campfire plant
Opuntia|prickly pear|Indoor > Cacti > Prickly pears|cactus|sun|low|-8|20-120|yellow,pink,orange|6-7|n|microdasys=bunny ears cactus;ficus-indica=barbary fig,prickly pear;humifusa=eastern prickly pear
Mammillaria|pincushion cactus|Indoor > Cacti > Pincushions|cactus|sun|low|5|6-25|pink,white,red|4-6|y|hahniana=old lady cactus;elongata=ladyfinger cactus;plumosa=feather cactus
Echinopsis|hedgehog cactus|Indoor > Cacti > Columns|cactus|sun|low|0|15-150|white,pink,yellow|6-8|y|oxygona=easter lily cactus;chamaecereus=peanut cactus;pachanoi=san pedro cactus
Schlumbergera|holiday cactus|Indoor > Cacti > Forest cacti|trailing|bright|mid|10|20-45|pink,red,white|11-12|y|truncata=thanksgiving cactus,crab cactus;x buckleyi=christmas cactus
Monstera|monstera|Indoor > Foliage > Aroids|foliage|bright|mid|13|60-250|green,cream|-|n|deliciosa=swiss cheese plant;adansonii=monkey mask plant,five holes plant;siltepecana=silver monstera
Philodendron|philodendron|Indoor > Foliage > Aroids|foliage|bright|mid|13|40-180|green,red,yellow|-|n|hederaceum=sweetheart plant;erubescens=blushing philodendron;bipinnatifidum=tree philodendron;gloriosum=velvet philodendron
Dracaena|dracaena|Indoor > Foliage > Dracaenas|palm|bright|low|10|50-200|green,yellow,red|-|n|trifasciata=snake plant,mother-in-law's tongue,sansevieria;marginata=dragon tree;fragrans=corn plant;reflexa=song of india
Ficus|fig tree|Indoor > Foliage > Figs|foliage|bright|mid|12|60-250|green,cream|-|n|elastica=rubber plant;lyrata=fiddle-leaf fig;benjamina=weeping fig;pumila=creeping fig
Calathea|calathea|Indoor > Foliage > Prayer plants|foliage|shadein|high|15|30-80|green,pink,purple|-|y|orbifolia=round-leaf calathea;makoyana=peacock plant,cathedral windows;lancifolia=rattlesnake plant;zebrina=zebra calathea
Pilea|pilea|Indoor > Foliage > Pileas|foliage|bright|mid|8|15-35|green,white|-|y|peperomioides=chinese money plant,pancake plant;cadierei=aluminium plant;involucrata=friendship plant
Epipremnum|pothos|Indoor > Hanging > Pothos|trailing|bright|mid|12|30-180|green,yellow,cream|-|n|aureum=golden pothos,devil's ivy;pinnatum=dragon-tail plant
Tradescantia|tradescantia|Indoor > Hanging > Tradescantias|trailing|bright|mid|5|20-40|purple,white,green|5-8|n|zebrina=silver inch plant;pallida=purple heart;spathacea=boat lily,moses in the cradle
Chlorophytum|spider plant|Indoor > Hanging > Spider plants|grass|bright|mid|7|25-50|green,white|-|y|comosum=spider plant,ribbon plant;laxum=zebra grass
Spathiphyllum|peace lily|Indoor > Flowering > Peace lilies|iris|shadein|high|13|40-100|white|4-9|n|wallisii=peace lily,spathe flower;cochlearispathum=giant peace lily
Phalaenopsis|moth orchid|Indoor > Flowering > Orchids|iris|bright|mid|15|30-80|white,pink,purple,yellow|1-12|y|amabilis=moon orchid;schilleriana=tiger orchid;equestris=horse phalaenopsis
Begonia|begonia|Indoor > Flowering > Begonias|foliage|bright|mid|8|20-60|pink,red,white,orange|6-10|n|rex=painted-leaf begonia;maculata=polka dot begonia,angel wing begonia;x tuberhybrida=tuberous begonia
Saintpaulia|african violet|Indoor > Flowering > African violets|mound|bright|mid|13|10-20|purple,pink,white|1-12|y|ionantha=african violet,usambara violet
Nephrolepis|sword fern|Indoor > Ferns|fern|shadein|high|8|30-90|green|-|y|exaltata=boston fern,sword fern;cordifolia=lemon button fern
Adiantum|maidenhair fern|Indoor > Ferns|fern|shadein|high|3|20-50|green|-|y|raddianum=delta maidenhair;capillus-veneris=maidenhair fern,venus hair
Asplenium|spleenwort|Indoor > Ferns|fern|shadein|high|5|30-90|green|-|y|nidus=bird's nest fern;scolopendrium=hart's tongue fern;bulbiferum=mother spleenwort
Dryopteris|wood fern|Outdoor > Ferns|fern|shade|mid|-20|50-120|green,bronze|-|y|filix-mas=male fern;erythrosora=japanese shield fern,autumn fern;affinis=golden-scaled male fern
Polystichum|shield fern|Outdoor > Ferns|fern|shade|mid|-18|45-110|green|-|y|setiferum=soft shield fern;munitum=western sword fern;polyblepharum=japanese tassel fern
Chamaedorea|parlour palm|Indoor > Palms|palm|bright|mid|10|60-180|green|-|y|elegans=parlour palm;seifrizii=bamboo palm;metallica=metallic palm
Howea|kentia palm|Indoor > Palms|palm|bright|mid|8|90-300|green|-|y|forsteriana=kentia palm,thatch palm;belmoreana=curly palm
Lavandula|lavender|Outdoor > Perennials > Lavenders|spire|sun|low|-12|30-80|purple,blue,white,pink|6-8|n|angustifolia=english lavender,true lavender;stoechas=french lavender,butterfly lavender;x intermedia=lavandin,dutch lavender;dentata=fringed lavender
Salvia|sage|Outdoor > Perennials > Salvias|spire|sun|mid|-10|40-120|blue,red,purple,pink|6-10|y|nemorosa=balkan clary,woodland sage;microphylla=baby sage;guaranitica=anise sage;farinacea=mealy sage
Digitalis|foxglove|Outdoor > Perennials > Foxgloves|spire|shadepart|mid|-20|80-160|pink,white,purple,yellow|5-7|n|purpurea=common foxglove;grandiflora=yellow foxglove;ferruginea=rusty foxglove
Delphinium|delphinium|Outdoor > Perennials > Delphiniums|spire|sun|high|-20|90-180|blue,white,purple|6-7|n|elatum=candle larkspur;grandiflorum=siberian larkspur
Lupinus|lupin|Outdoor > Perennials > Lupins|spire|sun|mid|-20|60-110|pink,blue,yellow,red|5-7|n|polyphyllus=garden lupin;arboreus=tree lupin
Veronica|speedwell|Outdoor > Perennials > Speedwells|spire|sun|mid|-25|25-70|blue,pink,white|6-8|y|spicata=spiked speedwell;longifolia=garden speedwell;gentianoides=gentian speedwell
Nepeta|catmint|Outdoor > Perennials > Catmints|spire|sun|low|-25|30-80|blue,purple|5-9|y|x faassenii=garden catmint;racemosa=dwarf catmint;subsessilis=japanese catmint
Kniphofia|red hot poker|Outdoor > Perennials > Pokers|spire|sun|mid|-10|60-150|orange,yellow,red|6-9|y|uvaria=torch lily,red hot poker;caulescens=blue-leaved poker
Echinacea|coneflower|Outdoor > Perennials > Coneflowers|daisy|sun|mid|-25|50-110|pink,white,orange,yellow|7-9|y|purpurea=purple coneflower;pallida=pale coneflower;paradoxa=yellow coneflower
Rudbeckia|black-eyed susan|Outdoor > Perennials > Rudbeckias|daisy|sun|mid|-25|50-180|yellow,orange|7-10|y|fulgida=orange coneflower;hirta=black-eyed susan;laciniata=cutleaf coneflower
Leucanthemum|shasta daisy|Outdoor > Perennials > Daisies|daisy|sun|mid|-25|30-90|white,yellow|6-9|n|x superbum=shasta daisy;vulgare=oxeye daisy,moon daisy
Aster|aster|Outdoor > Perennials > Asters|daisy|sun|mid|-25|30-120|purple,blue,pink,white|8-10|y|amellus=italian aster;x frikartii=frikart's aster;alpinus=alpine aster
Helenium|sneezeweed|Outdoor > Perennials > Sneezeweeds|daisy|sun|high|-25|60-130|orange,red,yellow|7-10|n|autumnale=common sneezeweed;hoopesii=orange sneezeweed
Gaillardia|blanket flower|Outdoor > Perennials > Blanket flowers|daisy|sun|low|-20|25-70|red,yellow,orange|6-10|n|aristata=common blanket flower;x grandiflora=blanket flower
Cosmos|cosmos|Outdoor > Annuals > Cosmos|daisy|sun|mid|0|50-130|pink,white,red|7-10|y|bipinnatus=garden cosmos,mexican aster;sulphureus=sulphur cosmos;atrosanguineus=chocolate cosmos
Tagetes|marigold|Outdoor > Annuals > Marigolds|mound|sun|mid|0|15-60|orange,yellow,red|6-10|n|patula=french marigold;erecta=african marigold;tenuifolia=signet marigold
Helianthus|sunflower|Outdoor > Annuals > Sunflowers|daisy|sun|high|0|60-250|yellow,orange,red|7-9|y|annuus=common sunflower;debilis=beach sunflower;salicifolius=willow-leaved sunflower
Tropaeolum|nasturtium|Outdoor > Annuals > Nasturtiums|trailing|sun|low|0|25-180|orange,red,yellow|6-10|y|majus=garden nasturtium;minus=dwarf nasturtium;speciosum=flame creeper
Viola|violet|Outdoor > Annuals > Violas|mound|part|mid|-20|10-25|purple,blue,yellow,white|3-10|y|odorata=sweet violet;cornuta=horned violet;x wittrockiana=garden pansy,pansy;tricolor=heartsease
Petunia|petunia|Outdoor > Annuals > Petunias|trailing|sun|mid|0|20-45|purple,pink,white,red|6-10|y|x atkinsiana=garden petunia;integrifolia=violet petunia
Pelargonium|pelargonium|Outdoor > Annuals > Pelargoniums|mound|sun|low|2|25-70|red,pink,white,orange|5-10|n|zonale=zonal geranium;peltatum=ivy-leaved geranium;graveolens=rose geranium
Geranium|cranesbill|Outdoor > Perennials > Cranesbills|mound|part|mid|-25|25-75|blue,pink,purple,white|5-9|y|pratense=meadow cranesbill;sanguineum=bloody cranesbill;macrorrhizum=bigroot cranesbill;phaeum=dusky cranesbill
Heuchera|coral bells|Outdoor > Perennials > Coral bells|mound|part|mid|-25|25-60|bronze,purple,green,pink|5-8|y|sanguinea=coral bells,alumroot;villosa=hairy alumroot;micrantha=crevice alumroot
Hosta|hosta|Outdoor > Perennials > Hostas|mound|shade|high|-25|25-90|green,blue-green,white,yellow|7-8|n|sieboldiana=siebold's plantain lily;plantaginea=fragrant plantain lily;fortunei=fortune's plantain lily;undulata=wavy-leaved plantain lily
Sedum|stonecrop|Outdoor > Rock garden > Stonecrops|mound|sun|low|-25|8-60|pink,yellow,red|7-10|y|acre=biting stonecrop,wallpepper;spurium=caucasian stonecrop;spectabile=ice plant,showy stonecrop;reflexum=blue stonecrop
Phlox|phlox|Outdoor > Perennials > Phloxes|mound|part|mid|-25|15-120|pink,white,purple,blue|5-9|y|paniculata=garden phlox;subulata=moss phlox,creeping phlox;divaricata=wild blue phlox
Paeonia|peony|Outdoor > Perennials > Peonies|rose|sun|mid|-25|60-110|pink,white,red|5-6|n|lactiflora=chinese peony,garden peony;officinalis=common peony;suffruticosa=tree peony
Helleborus|hellebore|Outdoor > Perennials > Hellebores|mound|shade|mid|-20|30-60|white,pink,purple,green|1-4|n|niger=christmas rose;orientalis=lenten rose;foetidus=stinking hellebore
Astilbe|astilbe|Outdoor > Perennials > Astilbes|spire|shade|high|-25|40-110|pink,red,white|6-8|y|chinensis=chinese astilbe;japonica=false goat's beard;simplicifolia=entire-leaf astilbe
Anemone|anemone|Outdoor > Perennials > Anemones|daisy|part|mid|-20|15-120|white,pink,blue|3-10|n|hupehensis=japanese anemone;blanda=winter windflower;nemorosa=wood anemone;coronaria=poppy anemone
Papaver|poppy|Outdoor > Perennials > Poppies|daisy|sun|low|-20|30-100|red,orange,pink,white|5-8|n|orientale=oriental poppy;rhoeas=corn poppy,field poppy;nudicaule=iceland poppy
Achillea|yarrow|Outdoor > Perennials > Yarrows|umbel|sun|low|-25|40-110|yellow,white,pink,red|6-9|n|millefolium=common yarrow;filipendulina=fernleaf yarrow;ptarmica=sneezewort
Eryngium|sea holly|Outdoor > Perennials > Sea hollies|umbel|sun|low|-20|40-100|blue,grey|7-9|y|planum=blue eryngo;maritimum=sea holly;giganteum=giant sea holly
Allium|ornamental onion|Bulbs > Spring > Alliums|umbel|sun|low|-20|20-120|purple,white,pink|5-7|n|hollandicum=dutch garlic;giganteum=giant onion;sphaerocephalon=drumstick allium;cristophii=star of persia
Agapanthus|agapanthus|Bulbs > Summer > Agapanthus|umbel|sun|mid|-8|50-130|blue,white,purple|7-9|n|africanus=african lily;praecox=lily of the nile;campanulatus=bell agapanthus
Tulipa|tulip|Bulbs > Spring > Tulips|bulb|sun|low|-25|15-65|red,yellow,pink,purple,white|3-5|n|gesneriana=garden tulip;clusiana=lady tulip;tarda=late tulip;sylvestris=wild tulip;greigii=greig's tulip
Narcissus|daffodil|Bulbs > Spring > Daffodils|bulb|part|mid|-25|15-50|yellow,white,orange|2-5|n|pseudonarcissus=wild daffodil,lent lily;poeticus=poet's narcissus,pheasant's eye;jonquilla=jonquil;cyclamineus=cyclamen-flowered daffodil
Crocus|crocus|Bulbs > Spring > Crocuses|bulb|sun|low|-25|8-15|purple,yellow,white|2-4|n|vernus=spring crocus;tommasinianus=woodland crocus,tommies;sativus=saffron crocus;chrysanthus=snow crocus
Galanthus|snowdrop|Bulbs > Spring > Snowdrops|bulb|shade|mid|-25|8-25|white|1-3|n|nivalis=common snowdrop;elwesii=giant snowdrop;woronowii=green snowdrop
Hyacinthus|hyacinth|Bulbs > Spring > Hyacinths|spire|sun|mid|-20|18-30|blue,pink,white,purple|3-4|n|orientalis=common hyacinth,dutch hyacinth
Muscari|grape hyacinth|Bulbs > Spring > Grape hyacinths|spire|sun|low|-25|10-25|blue,white,purple|3-5|y|armeniacum=armenian grape hyacinth;botryoides=common grape hyacinth;latifolium=broad-leaved grape hyacinth
Lilium|lily|Bulbs > Summer > Lilies|iris|sun|mid|-20|60-180|white,pink,orange,yellow|6-8|n|candidum=madonna lily;lancifolium=tiger lily;regale=regal lily;martagon=turk's cap lily;longiflorum=easter lily
Dahlia|dahlia|Bulbs > Summer > Dahlias|rose|sun|high|-2|40-140|red,pink,orange,yellow,purple,white|7-10|n|pinnata=garden dahlia;coccinea=red dahlia;imperialis=tree dahlia
Gladiolus|gladiolus|Bulbs > Summer > Gladioli|iris|sun|mid|-5|60-120|red,pink,white,purple|7-9|n|communis=eastern gladiolus,corn flag;murielae=abyssinian gladiolus,peacock flower
Iris|iris|Outdoor > Perennials > Irises|iris|sun|mid|-25|20-110|blue,purple,yellow,white|4-6|n|germanica=bearded iris,flag iris;sibirica=siberian iris;reticulata=netted iris;pseudacorus=yellow flag;ensata=japanese water iris
Cyclamen|cyclamen|Bulbs > Autumn > Cyclamens|bulb|shade|low|-15|8-20|pink,white,purple|9-3|n|hederifolium=ivy-leaved cyclamen,sowbread;coum=eastern cyclamen;persicum=florist's cyclamen
Rosa|rose|Outdoor > Roses|rose|sun|mid|-20|60-250|red,pink,white,yellow,orange|6-10|y|gallica=gallic rose;canina=dog rose;rugosa=beach rose,japanese rose;banksiae=lady banks' rose;chinensis=china rose;x damascena=damask rose
Hydrangea|hydrangea|Outdoor > Shrubs > Hydrangeas|shrub|part|high|-18|80-200|blue,pink,white|6-9|n|macrophylla=bigleaf hydrangea,mophead;paniculata=panicled hydrangea;quercifolia=oak-leaved hydrangea;arborescens=smooth hydrangea
Buddleja|butterfly bush|Outdoor > Shrubs > Butterfly bushes|shrub|sun|low|-18|100-300|purple,pink,white|7-9|y|davidii=summer lilac,butterfly bush;alternifolia=fountain butterfly bush;globosa=orange ball tree
Syringa|lilac|Outdoor > Shrubs > Lilacs|shrub|sun|mid|-25|150-400|purple,white,pink|5-6|y|vulgaris=common lilac;meyeri=korean lilac;pubescens=hairy lilac
Fuchsia|fuchsia|Outdoor > Shrubs > Fuchsias|shrub|part|high|-5|40-180|pink,purple,red,white|6-10|y|magellanica=hardy fuchsia,hummingbird fuchsia;triphylla=honeysuckle fuchsia;procumbens=creeping fuchsia
Rhododendron|rhododendron|Outdoor > Shrubs > Rhododendrons|shrub|part|mid|-20|60-250|pink,purple,white,red,orange|4-6|n|ponticum=common rhododendron;luteum=yellow azalea;yakushimanum=yak rhododendron;obtusum=kirishima azalea
Camellia|camellia|Outdoor > Shrubs > Camellias|shrub|part|mid|-12|100-300|pink,white,red|2-5|y|japonica=common camellia;sasanqua=christmas camellia;sinensis=tea plant
Hibiscus|hibiscus|Outdoor > Shrubs > Hibiscus|shrub|sun|mid|-15|80-250|pink,white,blue,red|7-10|n|syriacus=rose of sharon;rosa-sinensis=chinese hibiscus;moscheutos=swamp rose mallow
Ceanothus|californian lilac|Outdoor > Shrubs > Ceanothus|shrub|sun|low|-10|80-300|blue,white|5-9|y|thyrsiflorus=blueblossom;arboreus=catalina ceanothus;impressus=santa barbara ceanothus
Buxus|box|Outdoor > Hedging > Box|shrub|part|mid|-20|40-150|green|-|n|sempervirens=common box,boxwood;microphylla=small-leaved box
Ilex|holly|Outdoor > Hedging > Hollies|shrub|part|mid|-20|80-400|green,red,yellow|-|n|aquifolium=common holly,english holly;crenata=japanese holly,box-leaved holly;verticillata=winterberry
Clematis|clematis|Outdoor > Climbers > Clematis|climber|part|mid|-20|150-500|purple,pink,white,blue|4-10|n|montana=mountain clematis;viticella=italian leather flower;armandii=evergreen clematis;tangutica=golden clematis,orange peel clematis
Lonicera|honeysuckle|Outdoor > Climbers > Honeysuckles|climber|part|mid|-20|200-600|yellow,pink,orange,white|5-9|n|periclymenum=common honeysuckle,woodbine;japonica=japanese honeysuckle;sempervirens=trumpet honeysuckle
Wisteria|wisteria|Outdoor > Climbers > Wisterias|climber|sun|mid|-20|300-900|purple,white,blue|5-6|n|sinensis=chinese wisteria;floribunda=japanese wisteria;frutescens=american wisteria
Jasminum|jasmine|Outdoor > Climbers > Jasmines|climber|sun|mid|-8|150-400|white,yellow|6-9|y|officinale=common jasmine,poet's jasmine;nudiflorum=winter jasmine;polyanthum=pink jasmine,many-flowered jasmine
Hedera|ivy|Outdoor > Climbers > Ivies|climber|shade|mid|-20|100-600|green,yellow,white|-|n|helix=common ivy,english ivy;colchica=persian ivy;hibernica=atlantic ivy
Passiflora|passion flower|Outdoor > Climbers > Passion flowers|climber|sun|mid|-8|200-500|blue,white,purple|7-9|y|caerulea=blue passion flower;edulis=passion fruit;incarnata=maypop
Acer|maple|Outdoor > Trees > Maples|tree|part|mid|-20|100-500|red,green,orange,purple|-|y|palmatum=japanese maple;griseum=paperbark maple;japonicum=downy japanese maple;campestre=field maple
Betula|birch|Outdoor > Trees > Birches|tree|sun|mid|-30|300-900|white,green,yellow|-|y|pendula=silver birch;utilis=himalayan birch;nigra=river birch
Magnolia|magnolia|Outdoor > Trees > Magnolias|tree|sun|mid|-20|150-600|pink,white,purple|3-5|y|stellata=star magnolia;x soulangeana=saucer magnolia;grandiflora=southern magnolia,bull bay
Prunus|ornamental cherry|Outdoor > Trees > Cherries|tree|sun|mid|-25|200-600|pink,white|3-5|n|serrulata=japanese cherry;incisa=fuji cherry;subhirtella=winter-flowering cherry
Sorbus|rowan|Outdoor > Trees > Rowans|tree|sun|mid|-25|250-700|white,red,orange|5-6|y|aucuparia=rowan,mountain ash;aria=common whitebeam;cashmiriana=kashmir rowan
Olea|olive|Outdoor > Trees > Olives|tree|sun|low|-8|80-300|green,grey|-|y|europaea=olive tree,common olive
Taxus|yew|Outdoor > Conifers > Yews|conifer|shade|mid|-25|60-300|green,yellow|-|n|baccata=english yew,common yew;x media=anglo-japanese yew
Juniperus|juniper|Outdoor > Conifers > Junipers|conifer|sun|low|-30|30-250|blue-green,green,yellow|-|n|communis=common juniper;horizontalis=creeping juniper;squamata=flaky juniper,himalayan juniper
Picea|spruce|Outdoor > Conifers > Spruces|conifer|sun|mid|-35|40-400|blue-green,green|-|y|pungens=colorado blue spruce;glauca=white spruce;abies=norway spruce
Pinus|pine|Outdoor > Conifers > Pines|conifer|sun|low|-30|50-400|green,blue-green|-|y|mugo=dwarf mountain pine;sylvestris=scots pine;parviflora=japanese white pine
Miscanthus|silver grass|Outdoor > Grasses > Silver grasses|grass|sun|mid|-20|90-220|cream,pink,green|8-10|y|sinensis=eulalia,chinese silver grass;sacchariflorus=amur silver grass;nepalensis=himalayan fairy grass
Stipa|feather grass|Outdoor > Grasses > Feather grasses|grass|sun|low|-15|40-220|cream,bronze|6-9|y|tenuissima=mexican feather grass,ponytail grass;gigantea=golden oats,giant feather grass
Carex|sedge|Outdoor > Grasses > Sedges|grass|shade|mid|-15|20-60|green,bronze,yellow|-|y|oshimensis=oshima sedge;comans=new zealand hair sedge;morrowii=japanese sedge
Pennisetum|fountain grass|Outdoor > Grasses > Fountain grasses|grass|sun|mid|-15|40-120|cream,purple,pink|7-10|y|alopecuroides=chinese fountain grass;setaceum=crimson fountain grass;orientale=oriental fountain grass
Festuca|fescue|Outdoor > Grasses > Fescues|grass|sun|low|-25|20-40|blue-green,grey|6-7|y|glauca=blue fescue;amethystina=tufted fescue
Phyllostachys|bamboo|Outdoor > Grasses > Bamboos|grass|sun|high|-18|200-500|green,yellow,purple|-|y|nigra=black bamboo;aurea=golden bamboo,fishpole bamboo;bissetii=bisset's bamboo
Ocimum|basil|Edible > Herbs > Basils|herb|sun|mid|8|25-60|green,purple|7-9|y|basilicum=sweet basil;x africanum=lemon basil;tenuiflorum=holy basil,tulsi
Mentha|mint|Edible > Herbs > Mints|herb|part|high|-25|30-80|green,purple|7-9|n|spicata=spearmint,garden mint;x piperita=peppermint;suaveolens=apple mint,pineapple mint;pulegium=pennyroyal
Thymus|thyme|Edible > Herbs > Thymes|herb|sun|low|-20|5-30|green,pink,yellow|6-8|y|vulgaris=common thyme,garden thyme;citriodorus=lemon thyme;serpyllum=creeping thyme
Salvia rosmarinus|rosemary|Edible > Herbs > Rosemaries|herb|sun|low|-10|30-150|blue,white,pink|3-6|y|officinalis=common rosemary;prostratus=trailing rosemary
Origanum|oregano|Edible > Herbs > Oreganos|herb|sun|low|-20|20-60|pink,green,yellow|7-9|n|vulgare=common oregano,wild marjoram;majorana=sweet marjoram
Petroselinum|parsley|Edible > Herbs > Parsleys|herb|part|mid|-10|20-45|green|-|n|crispum=curly parsley;neapolitanum=flat-leaved parsley,italian parsley
Coriandrum|coriander|Edible > Herbs > Corianders|herb|part|mid|-3|25-60|green,white|6-8|y|sativum=coriander,cilantro
Solanum|tomato|Edible > Vegetables > Tomatoes|vegetable|sun|high|5|60-200|red,yellow,orange,purple|6-9|n|lycopersicum=tomato,cherry tomato;melongena=aubergine,eggplant;pimpinellifolium=currant tomato
Capsicum|pepper|Edible > Vegetables > Peppers|vegetable|sun|mid|8|40-90|red,yellow,green,orange|6-9|n|annuum=sweet pepper,bell pepper;chinense=habanero pepper;baccatum=aji pepper
Cucurbita|squash|Edible > Vegetables > Squashes|vegetable|sun|high|5|40-120|orange,green,yellow|6-9|y|pepo=courgette,zucchini;maxima=winter squash,pumpkin;moschata=butternut squash
Phaseolus|bean|Edible > Vegetables > Beans|vegetable|sun|mid|3|40-220|red,white,purple|6-9|y|vulgaris=french bean,kidney bean;coccineus=runner bean
Citrullus|watermelon|Edible > Vegetables > Melons|vegetable|sun|high|10|30-60|green,yellow|6-8|y|lanatus=watermelon
Fragaria|strawberry|Edible > Soft fruit > Strawberries|fruit|sun|mid|-20|15-30|red,white|5-7|y|x ananassa=garden strawberry;vesca=alpine strawberry,wild strawberry
Rubus|bramble|Edible > Soft fruit > Raspberries and brambles|fruit|sun|mid|-25|100-220|red,purple,yellow|5-7|y|idaeus=raspberry;fruticosus=blackberry,bramble;phoenicolasius=japanese wineberry
Vaccinium|blueberry|Edible > Soft fruit > Blueberries|fruit|sun|high|-25|60-180|blue,red|4-6|y|corymbosum=highbush blueberry;vitis-idaea=lingonberry,cowberry;macrocarpon=cranberry
Ribes|currant|Edible > Soft fruit > Currants|fruit|part|mid|-25|90-160|red,purple,white|4-5|n|nigrum=blackcurrant;rubrum=redcurrant,whitecurrant;uva-crispa=gooseberry
Malus|apple|Edible > Fruit trees > Apples|tree|sun|mid|-25|180-450|pink,white,red|4-5|n|domestica=apple tree,dessert apple;sylvestris=crab apple;floribunda=japanese crab apple
Pyrus|pear|Edible > Fruit trees > Pears|tree|sun|mid|-25|180-500|white,green|4-5|n|communis=common pear;pyrifolia=asian pear,nashi;salicifolia=willow-leaved pear
Citrus|citrus|Edible > Fruit trees > Citrus|tree|bright|mid|3|60-200|yellow,orange,green|3-9|n|limon=lemon tree;sinensis=sweet orange;x aurantiifolia=key lime;japonica=kumquat
Vitis|grape vine|Edible > Fruit trees > Vines|climber|sun|mid|-18|200-500|green,purple|6-7|n|vinifera=wine grape,grape vine;coignetiae=crimson glory vine;labrusca=fox grape
`;

const LIGHT: Record<string, Genus['light']> = { sun: 'full sun', part: 'part shade', shadepart: 'part shade', shade: 'shade', bright: 'bright indirect', shadein: 'shade' }; // prettier-ignore
const WATER: Record<string, Genus['water']> = { low: 'sparing', mid: 'moderate', high: 'generous' };

/** Places and people keep their capital inside a common name. */
const PROPER =
  /\b(african|american|anglo|armenian|asian|atlantic|balkan|barbary|bermuda|bisset's|boston|caucasian|chinese|christmas|colorado|dutch|english|fortune's|french|frikart's|fuji|greig's|himalayan|iceland|italian|japanese|kashmir|korean|lady banks|mexican|new zealand|norway|oshima|persian|santa barbara|san pedro|scots|siberian|siebold's|turk's|usambara|abyssinian|californian|catalina|venus|moses|easter|lenten|london)\b/g;

const properName = (name: string): string =>
  name.replace(PROPER, (words) => words.replace(/\b[a-z](?=[a-z])/g, (letter) => letter.toUpperCase()));

const range = (text: string): [number, number] => text.split('-').map(Number) as [number, number];

/** The groups of plants Quillbrook sells. */
export const GENERA: readonly Genus[] = TABLE.trim()
  .split('\n')
  .map((row): Genus => {
    const [genus, group, category, form, light, water, hardy, height, colours, months, pet, species] = row.split('|');
    return {
      genus: genus!,
      group: group!,
      category: category!,
      form: form as Form,
      light: LIGHT[light!]!,
      water: WATER[water!]!,
      hardyToC: Number(hardy),
      heightCm: range(height!),
      colours: colours!.split(','),
      months: months === '-' ? null : range(months!),
      petSafe: pet === 'y',
      species: species!.split(';').map((entry) => {
        const [epithet, names] = entry.split('=');
        return { botanical: `${genus} ${epithet!.replace(/^x /, '× ')}`, common: names!.split(',').map(properName) };
      }),
    };
  });
