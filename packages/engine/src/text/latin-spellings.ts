/**
 * How letters of other scripts are written in Latin ones, folded: letters, a space, their spellings. Made from the
 * transforms of the Unicode CLDR 48.2.0 by scripts/latin-spellings.mjs; do not change it by hand.
 */
export const LATIN_SPELLINGS =
  'α a;αε ae;αη ai;αι ai;αυ av;β b,v;γ g,n,y;γγ ng;γκ g,ng;δ d,dh;ε e;ει ei,i;ευ ev;ζ z;η e,i;ηυ iv;θ th;ι i;κ k;' +
  'λ l;μ m;μπ b,mb;ν n;ντ d,nd;ξ x;ο o;οη oi;οι oi;ου ou;π p;ρ r,rh;σ s;τ t;υ i,u,v,y;φ f,ph;χ ch,kh;ψ ps;ω o;' +
  'ωο oo;ϳ j;ϸ s;ϻ s;а a;б b;в v;г d,g,h;гһ gh;д d;е e,ye,yo;ж j,z,zh;з dz,z;зг zh;зһ zh;и i,y;й j,y;к c,k;кг kh;' +
  'кһ kh;л l;м m;н n;нг ng;о o;п p;р r;с s;сг sh;сһ sh;т t;тс ts;у u,w;ф f;х h,kh;ц c,ts;цг tsh;цһ tsh;ч c,ch;' +
  'ш s,sh;шт sht;шч shch;щ s,shch,sht;ъ ,u;ы i,y;ь ,i;э e;ю u,yu;я a,ya;ђ d;є e,ye;ѕ dz,z;і i,yi;ј j;љ l,lj;' +
  'њ n,nj;ћ c;џ d,dz;ѣ ye;ѫ u;ґ g;ғ g,gh;ҕ g;ҙ z;қ q;ң n,ng;ү u;ұ u;һ h;ӕ ae;ә a;ө o;ա a;բ b;գ g;դ d;' +
  'ե e,ev,ye,yev;եւ ev,yev;զ z;է e;ը y;թ t;ժ zh;ի ev,i,yev;լ l;խ kh;ծ ts;կ k;հ h;ձ dz;ղ gh;ճ ch;մ m;յ y;ն n;շ sh;' +
  'ո o,vo;ով ov;ու u;չ ch;պ p;ջ j;ռ rr;ս s;վ ev,v,yev;տ t;ր r;ց ts;ւ ev,yev;փ p;ք k;օ o;ֆ f;א ;ב b,v;ג g;ד d;ה h;' +
  'ו o,u,w;ז z;ח h;ט t;י e,i,y;כ k,kh;ל l;מ m;נ n;ס s;ע ;פ f,p;צ c,z;ק q;ר r;ש s,sh;ת t;ء ;ا ,a;ب b,bb;ت t,tt;' +
  'ته th;ث s,ss,th,thth;ج j,jj;ح h,hh;خ kh,khkh;د d,dd;ده dh;ذ dh,dhdh,z,zz;ر r,rr;ز z,zz;زه zh;س s,ss;سه sh;' +
  'ش sh,shsh;ص s,ss;ض d,dd,z;ط t,tt;ظ z,zz;ع ;غ gh,ghgh;ف f,ff;ق q,qq;ك k,kk;كه kh;ل l,ll;م m,mm;ن n,nn;ه h,hh,t;' +
  'و aw,ow,u,v,w,ww;ي a,ay,i,y,yy;ٹ t;ٺ th;ٻ b;ټ t;ٽ t;پ p,pp;ٿ th;ڀ bh;ځ dz;ڃ n;ڄ j;څ ts;چ ch,chch;ڇ ch;ڈ d;ډ d;' +
  'ڊ d;ڌ dh;ڍ dh;ڏ d;ڑ r;ړ r;ږ zh;ژ zh,zhzh;ڙ r;ڤ v;ڦ ph;ڪ k;ګ g;ڭ ng;گ g;گه gh;ڱ n;ڳ g;ں ;ڻ n;ڼ n;ۋ v;ۍ ay;ې e;' +
  'ے ai;ა a;ბ b;გ g;დ d;ე e;ვ v;ზ z;თ t;ი i;კ k;ლ l;მ m;ნ n;ო o;პ p;ჟ zh;რ r;ს s;ტ t;უ u;ფ p;ქ k;ღ gh;ყ q;შ sh;' +
  'ჩ ch;ც ts;ძ dz;წ ts;ჭ ch;ხ kh;ჯ j;ჰ h;ჳ ui;ჴ q';
