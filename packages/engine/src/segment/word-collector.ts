import { eachToken, type VisitToken } from '../text/tokens.ts';
import { Section, type SectionInput } from '../bytes/flat-buffer.ts';
import {
  headEntry,
  headField,
  headStart,
  headWords,
  isHead,
  MAX_POSITION,
  MOST_WORDS,
  tokenEntry,
  tokenStays,
  tokenTerm,
} from './forward.ts';
import { frequentTerms, pairSections } from './frequent-pairs.ts';
import { GrowingArray } from '../bytes/growing-array.ts';
import { room } from '../bytes/room.ts';
import { CLASSES, impactClass, PARTED_FROM } from './impact.ts';
import { WordTable } from './word-table.ts';

/** Words between two strings of one field, so that they do not read as neighbours. */
const STRING_GAP = 8;
const NONE = 0xffff_ffff;
/** What is known of one word in one field. */
const Group = {
  Field: 0,
  /** Another group of the word, among the others. */
  Next: 1,
  /** 1 + the last document counted: a document stands once in a group. */
  Doc: 2,
  Size: 3,
  /** Once all are counted: where its next posting goes. */
  Post: 3,
  Numbers: 4,
} as const;
const NO_GROUP = [NONE, NONE, 0, 0];
/** How often a text has come so far. */
const [NEVER, ONCE] = [-3, -2];

function twiceAsLong(numbers: Uint32Array): Uint32Array<ArrayBuffer> {
  const longer = new Uint32Array(2 * numbers.length);
  longer.set(numbers);
  return longer;
}

/**
 * Collects the words of texts, document by document, as a forward index with words numbered as they come; `finish`
 * numbers them in sorted order and turns them into postings by counting, without any sorting of postings.
 *
 * The postings of a word are parted by field: one group for each field it stands in. Groups are counted while
 * collecting, as a short chain for each word.
 */
export class WordCollector {
  readonly #terms = new WordTable();
  /**
   * Groups, four numbers each (see Group): the first group of word `t` is group `t`, and nearly always its only one.
   * What is counted with every word of every text stands side by side, so that it costs one look into memory.
   */
  readonly #firstGroups = new GrowingArray(Uint32Array);
  readonly #otherGroups = new GrowingArray(Uint32Array);
  readonly #starts = new GrowingArray(Uint32Array, [0]);
  readonly #entries = new GrowingArray(Int32Array);
  /**
   * Of the document at hand, by field: the position of the next string, the words so far, and where its heads stand.
   */
  readonly #nextPlace: number[] = [];
  readonly #words: number[] = [];
  readonly #heads: number[] = [];
  /** Of the string at hand: its words and where they stand, so many of them. */
  #tokenTerms = new Uint32Array(64);
  #tokenPositions = new Uint32Array(64);
  #tokens = 0;
  /** By field: the words of texts that came again. */
  readonly #known: KnownTexts[] = [];
  /** By field: the fewest words a document has in it, when it has any. */
  readonly #shortest: number[] = [];

  /** Adds a text of the document at hand; returns how many words it holds. */
  addText(doc: number, field: number, text: string): number {
    this.#tokens = 0;
    const count = eachToken(text, this.#take);
    if (count === 0) return 0;
    this.#addHead(field, count);
    const terms = this.#tokenTerms;
    const positions = this.#tokenPositions;
    let before = -1;
    for (let i = 0; i < this.#tokens; i++) {
      const position = positions[i]!;
      this.#entries.push(tokenEntry(terms[i]!, position === before));
      before = position;
      this.#countPosting(terms[i]!, field, doc);
    }
    return count;
  }

  /**
   * Adds a text that may stand in many documents: always under this number of its field. From the third time on its
   * words are known.
   */
  addValue(doc: number, field: number, text: string, number: number): void {
    const known = (this.#known[field] ??= new KnownTexts());
    const slot = known.slotOf(number);
    if (slot === -1) {
      const before = this.#entries.length;
      const count = this.addText(doc, field, text);
      known.seen(number, this.#entries.array.subarray(before + 1, this.#entries.length), count);
      return;
    }
    const count = known.words(slot);
    if (count === 0) return;
    this.#addHead(field, count);
    const entries = known.entries(slot);
    this.#entries.append(entries);
    for (let i = 0; i < entries.length; i++) this.#countPosting(tokenTerm(entries[i]!), field, doc);
  }

  #addHead(field: number, count: number): void {
    const first = this.#nextPlace[field] ?? 0;
    this.#heads.push(this.#entries.length);
    this.#entries.push(headEntry(field, 0, first));
    this.#nextPlace[field] = first + count + STRING_GAP;
    this.#words[field] = (this.#words[field] ?? 0) + count;
  }

  /** Takes a word in, in the order of positions: joined forms come after the words they join. */
  readonly #take: VisitToken = (token, _start, _end, position) => {
    const term = this.#termOf(token);
    if (this.#tokens === this.#tokenTerms.length) {
      this.#tokenTerms = twiceAsLong(this.#tokenTerms);
      this.#tokenPositions = twiceAsLong(this.#tokenPositions);
    }
    const terms = this.#tokenTerms;
    const positions = this.#tokenPositions;
    let at = this.#tokens++;
    for (; at > 0 && positions[at - 1]! > position; at--) {
      terms[at] = terms[at - 1]!;
      positions[at] = positions[at - 1]!;
    }
    terms[at] = term;
    positions[at] = position;
  };

  #termOf(token: string): number {
    const known = this.#terms.size;
    const term = this.#terms.numberOf(token);
    if (term === known) this.#firstGroups.append(NO_GROUP);
    return term;
  }

  #countPosting(term: number, field: number, doc: number): void {
    const at = term * Group.Numbers;
    const firsts = this.#firstGroups.array;
    if (firsts[at + Group.Field] === field) {
      if (firsts[at + Group.Doc] === doc + 1) return;
      firsts[at + Group.Doc] = doc + 1;
      firsts[at + Group.Size]!++;
    } else if (firsts[at + Group.Field] === NONE) {
      firsts[at + Group.Field] = field;
      firsts[at + Group.Doc] = doc + 1;
      firsts[at + Group.Size] = 1;
    } else this.#countElsewhere(at, field, doc);
  }

  /** The same for a word whose first group is that of another field. */
  #countElsewhere(first: number, field: number, doc: number): void {
    const others = this.#otherGroups.array;
    for (let group = this.#firstGroups.array[first + Group.Next]!; group !== NONE;) {
      const at = group * Group.Numbers;
      if (others[at + Group.Field] !== field) {
        group = others[at + Group.Next]!;
        continue;
      }
      if (others[at + Group.Doc] === doc + 1) return;
      others[at + Group.Doc] = doc + 1;
      others[at + Group.Size]!++;
      return;
    }
    const group = this.#otherGroups.length / Group.Numbers;
    this.#otherGroups.append([field, this.#firstGroups.array[first + Group.Next]!, doc + 1, 1]);
    this.#firstGroups.array[first + Group.Next] = group;
  }

  /** Ends the document at hand: its heads learn how many words each field holds. */
  endDocument(): void {
    const entries = this.#entries.array;
    for (const at of this.#heads) {
      const field = headField(entries[at]!);
      entries[at] = headEntry(field, this.#words[field]!, headStart(entries[at]!));
    }
    this.#words.forEach((count, field) => {
      if (count > 0) this.#shortest[field] = Math.min(this.#shortest[field] ?? MOST_WORDS, count);
    });
    this.#heads.length = 0;
    this.#nextPlace.fill(0);
    this.#words.fill(0);
    this.#starts.push(this.#entries.length);
  }

  /** By field number; MOST_WORDS for a field no document has words in. */
  shortest(fields: number): number[] {
    return Array.from({ length: fields }, (_, field) => this.#shortest[field] ?? MOST_WORDS);
  }

  /**
   * The words in sorted order, a look-up of their ranks there (-1: no such word), and the sections of the forward index
   * and of the postings, for so many fields.
   */
  finish(
    fields: number,
    frequentDocs?: number,
  ): { sorted: string[]; find: (word: string) => number; sections: SectionInput[] } {
    /** `numbers`: the number that a word got when it came, by its rank; `ranks` is the other way round. */
    const { words: sorted, numbers } = this.#terms.sorted();
    const ranks = room(Uint32Array, sorted.length);
    for (let rank = 0; rank < numbers.length; rank++) ranks[numbers[rank]!] = rank;
    const { starts, fields: groupFields, posts } = this.#layOutGroups(numbers);
    const postings = (term: number): number => posts[starts[term + 1]!]! - posts[starts[term]!]!;
    const postingSections = this.#postings(posts, ranks);
    const entries = this.#entries.view();
    const forwardStarts = this.#starts.view();
    const frequent = frequentTerms(sorted.length, forwardStarts.length - 1, postings, frequentDocs);
    return {
      sorted,
      find: (word) => {
        const number = this.#terms.find(word);
        return number === -1 ? -1 : ranks[number]!;
      },
      sections: [
        { kind: Section.ForwardStarts, data: forwardStarts },
        { kind: Section.Forward, data: entries },
        { kind: Section.GroupStarts, data: starts },
        { kind: Section.GroupFields, data: groupFields },
        { kind: Section.GroupPosts, data: posts },
        ...postingSections,
        ...pairSections(frequent, sorted.length, fields, forwardStarts, entries),
      ],
    };
  }

  /**
   * Puts the groups in the order of words, then fields; `posts` says where the postings of each begin. From here on a
   * group tells where its next posting goes instead of its size.
   */
  #layOutGroups(numbers: Uint32Array): { starts: Uint32Array; fields: Uint8Array; posts: Uint32Array } {
    const [firsts, others] = [this.#firstGroups.view(), this.#otherGroups.view()];
    const count = (firsts.length + others.length) / Group.Numbers;
    const starts = room(Uint32Array, numbers.length + 1);
    const fields = room(Uint8Array, count);
    const posts = room(Uint32Array, count + 1);
    let slot = 0;
    const layOut = (groups: Uint32Array, at: number): void => {
      const begin = posts[slot]!;
      fields[slot] = groups[at + Group.Field]!;
      posts[slot + 1] = begin + groups[at + Group.Size]!;
      groups[at + Group.Post] = begin;
      groups[at + Group.Doc] = 0;
      slot++;
    };
    for (let rank = 0; rank < numbers.length; rank++) {
      const first = numbers[rank]! * Group.Numbers;
      let next = firsts[first + Group.Next]!;
      if (next === NONE) layOut(firsts, first);
      else {
        const all = [{ groups: firsts, at: first }];
        for (; next !== NONE; next = others[next * Group.Numbers + Group.Next]!)
          all.push({ groups: others, at: next * Group.Numbers });
        all.sort((a, b) => a.groups[a.at + Group.Field]! - b.groups[b.at + Group.Field]!);
        for (const { groups, at } of all) layOut(groups, at);
      }
      starts[rank + 1] = slot;
    }
    return { starts, fields, posts };
  }

  /**
   * Fills the groups in document order, then parts the large ones by impact class; and names words by their ranks. One
   * flat loop over all entries, without a cursor, on purpose: what it costs is what it touches in memory, which is a
   * group and a posting a word.
   */
  #postings(posts: Uint32Array, ranks: Uint32Array): SectionInput[] {
    const [entries, starts] = [this.#entries.view(), this.#starts.view()];
    const firsts = this.#firstGroups.array;
    const others = this.#otherGroups.array;
    const docs = room(Uint32Array, posts[posts.length - 1]!);
    const classes = room(Uint8Array, docs.length);
    for (let doc = 0; doc + 1 < starts.length; doc++) {
      let [field, words, position] = [0, 0, 0];
      for (let at = starts[doc]!, end = starts[doc + 1]!; at < end; at++) {
        const entry = entries[at]!;
        if (isHead(entry)) {
          field = headField(entry);
          words = headWords(entry);
          position = headStart(entry) - 1;
          continue;
        }
        const term = tokenTerm(entry);
        const stays = tokenStays(entry);
        if (!stays) position++;
        entries[at] = tokenEntry(ranks[term]!, stays);
        let groups = firsts;
        let group = term * Group.Numbers;
        while (groups[group + Group.Field] !== field) {
          group = groups[group + Group.Next]! * Group.Numbers;
          groups = others;
        }
        // The first time a word stands in a field is its best position there.
        if (groups[group + Group.Doc] === doc + 1) continue;
        groups[group + Group.Doc] = doc + 1;
        const post = groups[group + Group.Post]!++;
        docs[post] = doc;
        classes[post] = impactClass(position < MAX_POSITION ? position : MAX_POSITION, words);
      }
    }
    const { parted, classStarts } = partGroups(posts, docs, classes);
    return [
      { kind: Section.PostDocs, data: docs },
      { kind: Section.PartedGroups, data: parted },
      { kind: Section.ClassStarts, data: classStarts },
    ];
  }
}

/** The words of texts of one field that came at least twice: what stands in one document alone is not kept. */
class KnownTexts {
  /** By the number of a text: its slot; or one of the two below. */
  readonly #slots: number[] = [];
  readonly #starts = new GrowingArray(Uint32Array, [0]);
  readonly #entries = new GrowingArray(Int32Array);
  readonly #words = new GrowingArray(Uint32Array);

  /** -1 when it is not kept. */
  slotOf(number: number): number {
    return Math.max(-1, this.#slots[number] ?? NEVER);
  }

  /** Told of a text that is not kept, each time it comes: `entries` are its words, `count` how many in a row. */
  seen(number: number, entries: Int32Array, count: number): void {
    while (this.#slots.length <= number) this.#slots.push(NEVER);
    if (this.#slots[number] === NEVER) return void (this.#slots[number] = ONCE);
    this.#slots[number] = this.#words.length;
    this.#words.push(count);
    this.#entries.append(entries);
    this.#starts.push(this.#entries.length);
  }

  words(slot: number): number {
    return this.#words.array[slot]!;
  }

  entries(slot: number): Int32Array {
    return this.#entries.array.subarray(this.#starts.array[slot], this.#starts.array[slot + 1]);
  }
}

/** Puts each large group in the order of its classes, by counting; says where each class begins. */
function partGroups(
  posts: Uint32Array,
  docs: Uint32Array,
  classes: Uint8Array,
): { parted: Uint32Array; classStarts: Uint32Array } {
  const parted = new GrowingArray(Uint32Array);
  const classStarts = new GrowingArray(Uint32Array);
  for (let group = 0; group + 1 < posts.length; group++) {
    const [from, to] = [posts[group]!, posts[group + 1]!];
    if (to - from < PARTED_FROM) continue;
    const next = new Uint32Array(CLASSES + 1);
    for (let at = from; at < to; at++) next[classes[at]! + 1]!++;
    for (let impact = 0; impact < CLASSES; impact++) next[impact + 1]! += next[impact]!;
    parted.push(group);
    for (let impact = 0; impact < CLASSES; impact++) classStarts.push(from + next[impact]!);
    const held = docs.slice(from, to);
    for (let i = 0; i < held.length; i++) docs[from + next[classes[from + i]!]!++] = held[i]!;
  }
  return { parted: parted.view(), classStarts: classStarts.view() };
}
