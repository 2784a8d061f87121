import type { SectionInput } from '../bytes/flat-buffer.ts';
import { room } from '../bytes/room.ts';

/**
 * The dictionary: all distinct words as a trie in three flat arrays, nodes in preorder.
 *
 * Preorder makes a subtree one run of nodes: a node's first child follows it, its next sibling is at `ends[node]`. And
 * because words are numbered in the same order, the words under a node are one run of numbers too, from `firsts[node]`
 * to `firsts[ends[node]]`. So a prefix is a single range of words, and a walk that gives up on a node skips all below
 * it with one assignment. `firsts` has one entry more than there are nodes, holding the number of words.
 */
export interface Trie {
  /** The letter (UTF-16 unit) that leads to the node; 0 at the root. */
  labels: Uint16Array;
  /** The node after the last one below this node. */
  ends: Uint32Array;
  /** Number of the first word at or below the node; the top bit says that the node itself ends that word. */
  firsts: Uint32Array;
}

/** A trie as three sections of a segment: labels, ends, firsts. */
export function trieSections(
  { labels, ends, firsts }: Trie,
  [labelsKind, endsKind, firstsKind]: readonly [number, number, number],
  part = 0,
): SectionInput[] {
  return [
    { kind: labelsKind, part, data: labels },
    { kind: endsKind, part, data: ends },
    { kind: firstsKind, part, data: firsts },
  ];
}

const ENDS_WORD = 0x8000_0000;
const NUMBER = 0x7fff_ffff;

/** Builds the trie of distinct words sorted by UTF-16 units. Word `i` of the list gets number `i`. */
export function buildTrie(sorted: readonly string[]): Trie {
  let nodes = 1;
  for (let i = 0; i < sorted.length; i++) nodes += sorted[i]!.length - sharedPrefix(sorted[i - 1] ?? '', sorted[i]!);
  const labels = room(Uint16Array, nodes);
  const ends = room(Uint32Array, nodes);
  const firsts = room(Uint32Array, nodes + 1);
  const path: number[] = [0];
  let next = 1;
  sorted.forEach((word, number) => {
    const shared = sharedPrefix(sorted[number - 1] ?? '', word);
    while (path.length > shared + 1) ends[path.pop()!] = next;
    for (let i = shared; i < word.length; i++) {
      labels[next] = word.charCodeAt(i);
      firsts[next] = number;
      path.push(next++);
    }
    firsts[path[path.length - 1]!]! |= ENDS_WORD;
  });
  while (path.length > 0) ends[path.pop()!] = next;
  firsts[nodes] = sorted.length;
  return { labels, ends, firsts };
}

function sharedPrefix(a: string, b: string): number {
  const limit = Math.min(a.length, b.length);
  let i = 0;
  while (i < limit && a.charCodeAt(i) === b.charCodeAt(i)) i++;
  return i;
}

/** The first word number at or below a node. */
export function firstWord(trie: Trie, node: number): number {
  return trie.firsts[node]! & NUMBER;
}

/** The word number after the last one at or below a node. */
export function endWord(trie: Trie, node: number): number {
  return trie.firsts[trie.ends[node]!]! & NUMBER;
}

/** Whether the letters down to this node are a word of their own. */
export function endsWord(trie: Trie, node: number): boolean {
  return (trie.firsts[node]! & ENDS_WORD) !== 0;
}

/** The node reached by these letters from a node, the root unless it is said, or -1. */
export function findNode(trie: Trie, letters: string, from = 0): number {
  let node = from;
  for (let i = 0; i < letters.length; i++) {
    const label = letters.charCodeAt(i);
    const end = trie.ends[node]!;
    let child = node + 1;
    while (child < end && trie.labels[child] !== label) child = trie.ends[child]!;
    if (child >= end) return -1;
    node = child;
  }
  return node;
}

/** The number of a word, or -1. */
export function findWord(trie: Trie, word: string): number {
  const node = findNode(trie, word);
  return node > 0 && endsWord(trie, node) ? firstWord(trie, node) : -1;
}

/** The letters of word `number`. */
export function wordAt(trie: Trie, number: number): string {
  let text = '';
  let node = 0;
  for (;;) {
    if (firstWord(trie, node) === number && endsWord(trie, node)) return text;
    let child = node + 1;
    while (endWord(trie, child) <= number) child = trie.ends[child]!;
    text += String.fromCharCode(trie.labels[child]!);
    node = child;
  }
}
