/**
 * What is found in which language: a text, what is typed, and what is marked of the text. `-` = nothing is found; `␣`
 * at the end of what is typed = the word is finished, else it may go on. Made up for this table.
 */
export const PAIRS: Readonly<Record<string, string>> = {
  en: `
    Snake plant | snake | Snake
    Snake plant | sna | Sna
    Snake plant | snakeplant | Snake plant
    Watermelon | water melon | Watermelon
    Watering can | water␣ | Watering
    O'Neill's rose | oneill | O'Neill's
    O'Neill's rose | o'neill | O'Neill's
    O'Neill's rose | o’neills | O'Neill's
    O'Neill's rose | neill␣ | Neill
    Don't prune | dont | Don't
    Plant's pot | plant␣ | Plant's
    Wi-Fi pot | wifi | Wi-Fi
    Wi-Fi pot | wi fi | Wi-Fi
    AG-204/B | ag204b | AG-204/B
    AG-204/B | 204 | 204
    3.5mm wire | 3.5 mm | 3.5mm
    Acme® pot | acme | Acme
    Acme® pot | ® | ®
    naïve gardener | naive | naïve
    naive gardener | naïve | naive
    20 °C at night | 20 °c | 20 °C
    © Quillbrook | © | ©
    Costs 12 € | € | €
    Costs $12 | $ | $
    Costs ￥12 | ¥ | ￥
    I ❤️ ferns | ❤ | ❤️
    I ❤ ferns | ❤️ | ❤
    👩🏽‍🌾 at work | 👩‍🌾 | 👩🏽‍🌾
    Grown in 🇩🇪 | 🇩🇪 | 🇩🇪
    Grown in 🇩🇪 | 🇫🇷 | -
    A → B | → | →
    Roses | ??? | -
    Roses | … | -
    Chapter Ⅳ | iv | Ⅳ
    Fern🌱 | fern | Fern
    🌱🌿 | 🌿 | 🌿
    Step ① | 1 | ①
    m² of bed | m2 | m²
    ﬁne soil | fine | ﬁne
    Ｆｕｌｌ width | full | Ｆｕｌｌ
    5㎏ bag | 5kg | 5㎏
    soft­hyphen | softhyphen | soft­hyphen`,
  fr: `
    L'érable de l'allée | érable | érable
    L'érable de l'allée | éra | éra
    L'érable de l'allée | allée | allée
    L’érable | erable | érable
    Lʼérable | érable | érable
    L′érable | érable | érable
    L'érable | l'érable | L'érable
    Érable rouge | l'érable | Érable
    Érable rouge | l'éra | Éra
    Érable rouge | d’érable | Érable
    Arbre d'ornement | ornement | ornement
    Arbre d'ornement | dornement | d'ornement
    Huile qu'on presse | on␣ | on
    Cœur de Marie | coeur | Cœur
    Coeur de Marie | cœur | Coeur
    Forêt | foret | Forêt
    Fore\u0302t | forêt | Fore\u0302t
    Aujourd'hui | aujourd'hui | Aujourd'hui
    Aujourd'hui | aujourdhui | Aujourd'hui
    Jardinières | jardinière␣ | Jardinières
    Pot | t | -`,
  it: `
    Terra dell'orto | orto | orto
    Terra dell'orto | ort | ort
    Terra dell’orto | dell'orto | dell’orto
    Orto di casa | dell'orto | Orto
    Orto di casa | l'orto | Orto
    Fiori d'arancio | arancio | arancio
    Un'aiuola | aiuola | aiuola
    Caffè | caffe | Caffè
    Sull'albero | albero | albero`,
  ca: `
    L'arbre de l'hort | arbre | arbre
    L'arbre de l'hort | hort | hort
    Hort | l'hort | Hort
    Col·lecció | collecció | Col·lecció
    Plaça | placa | Plaça`,
  es: `
    Jardín | jardin | Jardín
    Jardi\u0301n | jardín | Jardi\u0301n
    Ñandú | nandu | Ñandú
    Pingüino | pinguino | Pingüino
    Macetas | maceta␣ | Macetas
    Cigüeña | ciguena | Cigüeña
    Árbol | ARBOL | Árbol`,
  pt: `
    Coração | coracao | Coração
    Vaso-d'água | água | água
    Pão | pao | Pão
    Flores | flor␣ | Flores
    Maçã | maca | Maçã`,
  de: `
    Müller | muller | Müller
    Müller | mueller | Müller
    Müller | muelle | Mülle
    Mueller | müller | Mueller
    Mueller | muller | -
    Müllerstraße 5 | muellerstrasse | Müllerstraße
    Öl | oel | Öl
    Straße | strasse | Straße
    Strasse | straße | Strasse
    Übertopf | uebertopf | Übertopf
    Übertopf | ubertopf | Übertopf
    Gärten | garten␣ | Gärten
    Gärten | gaerten | Gärten
    Größe 5 | grösse | Größe
    Größe 5 | groesse | Größe
    Grosse 5 | große | Grosse
    Aue am Fluss | aue | Aue
    Baeume | bäume | Baeume
    Fuchsien-Ampel | fuchsienampel | Fuchsien-Ampel
    Die Rose | rosen␣ | Rose
    Gartenschere, Schere, Garten | schere␣ | schere, Schere
    Garten. Gartenschere | schere | schere
    Blume. Blumentopf | topf | topf`,
  nl: `
    Bloemen | bloem␣ | Bloemen
    Reünie | reunie | Reünie
    's Avonds | avonds | Avonds
    Tuin. Tuinhuis | huis | huis`,
  da: `
    Blåbær | blabaer | Blåbær
    Blåbær | blaabaer | Blåbær
    Blaabær | blåbær | Blaabær
    Grøn | gron | Grøn
    Have. Havesaks | saks | saks`,
  sv: `
    Äpple | apple | Äpple
    Äpple | aepple | Äpple
    Blåsippa | blaasippa | Blåsippa
    Björk | bjork | Björk
    Björk | bjoerk | Björk
    Trädgård. Trädgårdssax | sax␣ | -
    Trädgård. Trädgårdsskola | skola | skola`,
  fi: `
    Mänty | manty | Mänty
    Mänty | maenty | Mänty
    Yö | yoe | Yö
    Puutarha. Puutarhasakset | sakset | sakset`,
  is: `
    Þistill | thistill | Þistill
    Það | thad | Það`,
  pl: `
    Łódź | lodz | Łódź
    Żółty kwiat | zolty | Żółty
    Ślimak | slimak | Ślimak
    Róża | roza | Róża
    Krzew | krzewy | -`,
  cs: `
    Růže | ruze | Růže
    Ru\u030aže | růže | Ru\u030aže
    Třešeň | tresen | Třešeň`,
  hu: `
    Rózsa | rozsa | Rózsa
    Őszirózsa | oszi | Őszi`,
  ro: `
    Grădină | gradina | Grădină
    Țară | tara | Țară
    Ţară | țară | Ţară`,
  tr: `
    Işık | isik | Işık
    IŞIK | ışık | IŞIK
    İstanbul lalesi | istanbul | İstanbul
    istanbul | İSTANBUL | istanbul
    Çiçek | cicek | Çiçek
    Gülü | gulu | Gülü`,
  az: `
    Əncir | əncir | Əncir
    Qızılgül | qizilgul | Qızılgül`,
  vi: `
    Hoa đào | dao | đào
    Hoa đào | hoa dao | Hoa đào
    Đỏ | do | Đỏ
    Cây trồng | cay trong | Cây trồng
    Phở | pho | Phở`,
  br: `
    C'hoar | c'hoar | C'hoar
    C’hoar | c'hoar | C’hoar
    Cʼhoar | choar | Cʼhoar
    C'hoar | c' | C`,
  ru: `
    Ёлка | елка | Ёлка
    Елка | ёлка | Елка
    Йод | йод | Йод
    Йод | иод␣ | -
    Иод | йод␣ | -
    И\u0306од | йод | И\u0306од
    Сады | сад␣ | Сады
    САД | сад | САД
    Объём | объем | Объём`,
  uk: `
    М'ята | м'ята | М'ята
    М’ята | м'ята | М’ята
    Мʼята | м’ята | Мʼята
    М'ята | мята | М'ята
    М'ята | м' | М
    М'ята | м’я | М'я
    Їжак | їжак | Їжак
    Об'єкт | обʼє | Об'є`,
  bg: `
    Градина | градина | Градина
    Чай | чаи␣ | -
    Роза | роз | Роз`,
  el: `
    Κήπος | κηπος | Κήπος
    ΚΗΠΟΣ | κήπος | ΚΗΠΟΣ
    Λουλούδι | λουλουδι | Λουλούδι
    Φως | ΦΩΣ | Φως
    Κήπος | κήπο | Κήπο`,
  he: `
    גינה | גִּנָּה␣ | -
    גִּינָה | גינה | גִּינָה
    הגינה | גינה␣ | הגינה
    בגינה | גינה␣ | בגינה
    והגינה | גינה␣ | והגינה
    גינה | הגינה␣ | גינה
    שלום | שלום | שלום
    שלום | שלומ | שלום
    ורדים | ורד␣ | ורדים
    הוורד | וורד␣ | הוורד`,
  ar: `
    حديقة | حديقة | حديقة
    حديقة | حديقه | حديقة
    حَدِيقَة | حديقة | حَدِيقَة
    حديقة | حَديقة | حديقة
    الحديقة | حديقة␣ | الحديقة
    والحديقة | حديقة␣ | والحديقة
    حديقة | الحديقة␣ | حديقة
    أزهار | ازهار | أزهار
    إناء | اناء | إناء
    آس | اس | آس
    ٱلورد | الورد | ٱلورد
    على | علي | على
    حـــديقة | حديقة | حـــديقة
    مؤتمر | موتمر | مؤتمر
    شاطئ | شاطي | شاطئ
    ١٩٨٧ | 1987 | ١٩٨٧
    1987 | ١٩٨٧ | 1987
    كتاب | کتاب | كتاب`,
  fa: `
    گل سرخ | گل | گل
    کتاب | كتاب | کتاب
    ایران | ايران | ایران
    می‌شود | میشود | می‌شود
    می‌شود | می شود | می‌شود
    گیاه‌خوار | گیاهخوار | گیاه‌خوار
    ۱۹۸۷ | 1987 | ۱۹۸۷
    ۱۹۸۷ | ١٩٨٧ | ۱۹۸۷`,
  ur: `
    پودا | پودا | پودا
    ہاتھ | هاته | ہاتھ
    ۴۵ | 45 | ۴۵`,
  hi: `
    पौधा | पौधा | पौधा
    पौधा | पौ | पौ
    पौधा | प | पौ
    हिंदी | हिँदी | हिंदी
    हिँदी | हिंदी | हिँदी
    क़लम | कलम | क़लम
    कलम | क़लम | कलम
    क\u093cलम | क़लम | क\u093cलम
    बाग़ीचा | बागीचा | बाग़ीचा
    गुलाब | गु | गु
    गुलाब | गुल | गुला
    १२ | 12 | १२
    कमल | कम | कम`,
  bn: `
    ফুল | ফুল | ফুল
    চাঁদ | চাংদ | চাঁদ
    ১২ | 12 | ১২
    গাছ | গা | গা`,
  ta: `
    பூ | பூ | பூ
    செடி | செ | செ
    செ\u0bbeடி | சொடி | செ\u0bbeடி`,
  th: `
    ดอกไม้สวย | ดอกไม้ | ดอกไม้
    ดอกไม้สวย | ดอก | ดอก
    ดอกไม้สวย | ไม้ | ไม้
    ดอกไม้สวย | สวย | สวย
    สีเขียว | สีเ | สีเ
    สีเขียว | สี | สี
    สีเขียว | เขียว | เขียว
    ต้นไม้ในบ้าน | บ้าน | บ้าน
    ๑๒ | 12 | ๑๒
    กุหลาบ | ก | กุ`,
  lo: `
    ດອກໄມ້ | ດອກ | ດອກ
    ດອກໄມ້ | ໄມ້ | ໄມ້`,
  zh: `
    室内多肉植物 | 植物 | 植物
    室内多肉植物 | 多肉 | 多肉
    室内多肉植物 | 内多 | 内多
    室内多肉植物 | 肉植物 | 肉植物
    室内多肉植物 | 室内多肉植物 | 室内多肉植物
    室内多肉植物 | 室 | 室
    室内多肉植物 | 物 | 物
    室内多肉植物 | 动物 | -
    花屋2026 | 2026 | 2026
    花屋2026 | 花屋 | 花屋
    红玫瑰 | 玫瑰 | 玫瑰
    红玫瑰 | 瑰 | 瑰
    玫瑰，红色 | 红色玫瑰 | 玫瑰，红色
    盆栽 | 盆 栽 | 盆栽`,
  ja: `
    植木鉢 | 鉢 | 鉢
    植木鉢 | 木鉢 | 木鉢
    植木鉢 | 植木 | 植木
    サボテン | サボテン | サボテン
    サボテン | サボ | サボ
    サボテン | サ | サ
    サボテン | さぼてん | サボテン
    さぼてん | サボテン | さぼてん
    サボテン | さぼ | サボ
    ｻﾎﾞﾃﾝ | サボテン | ｻﾎﾞﾃﾝ
    サボテン | ｻﾎﾞﾃﾝ | サボテン
    サホ\u3099テン | サボテン | サホ\u3099テン
    コーヒー | コーヒー | コーヒー
    コーヒー | こーひー | コーヒー
    多肉植物の店 | 植物 | 植物
    東京の花屋 | 花屋 | 花屋
    東京の花屋 | 京の | 京の
    ﾊﾞﾗ | バラ | ﾊﾞﾗ
    が | か\u3099 | が
    ㌔ | キロ | ㌔`,
  ko: `
    장미 | 장미 | 장미
    장미 | 장ㅁ | 장미
    장미 | ㅈ | 장
    장미 | 자 | 장
    자미 | 잠 | 자미
    장미 | ${'장미'.normalize('NFD')} | 장미
    ${'장미'.normalize('NFD')} | 장미 | ${'장미'.normalize('NFD')}
    정원에서 | 정원␣ | 정원에서
    정원 | 정원에서␣ | 정원
    꽃을 | 꽃␣ | 꽃을
    고양이를 | 고양이␣ | 고양이를
    값 | 갑ㅅ | 값
    꽃밭 | 꽃 | 꽃
    다육 식물 | 식물 | 식물
    정원 | 장원␣ | -`,
  hy: `
    Այգի | այգի | Այգի
    Եւ | եւ | Եւ`,
  ka: `
    ვარდი | ვარდი | ვარდი
    ვარდი | ვარ | ვარ`,
  am: `
    አበባ | አበባ | አበባ
    አበባ | አበ | አበ`,
};
