import type { Handler } from '@/http/route';

/** The handlers of one address, by method. */
export type RouteModule = Readonly<Partial<Record<string, Handler>>>;

/** Addresses as the framework's folders name them, such as `/api/v1/collections/[collection]/search`. */
export type RouteTable = readonly (readonly [pattern: string, handlers: RouteModule])[];

export interface Found {
  pattern: string;
  handlers: RouteModule;
  params: Record<string, string>;
}

interface Node {
  fixed: Map<string, Node>;
  param: { name: string; node: Node } | null;
  rest: { name: string; leaf: Leaf } | null;
  leaf: Leaf | null;
}

interface Leaf {
  pattern: string;
  handlers: RouteModule;
}

const newNode = (): Node => ({ fixed: new Map(), param: null, rest: null, leaf: null });

/** Finds the route of a path by its parts: a part that is named stands before one that may be anything. */
export class Router {
  readonly #root = newNode();

  constructor(table: RouteTable) {
    for (const [pattern, handlers] of table) this.#add(pattern, { pattern, handlers });
  }

  #add(pattern: string, leaf: Leaf): void {
    let node = this.#root;
    for (const part of pattern.split('/').slice(1)) {
      const rest = /^\[\.\.\.(.+)\]$/.exec(part);
      if (rest) {
        node.rest = { name: rest[1]!, leaf };
        return;
      }
      const param = /^\[(.+)\]$/.exec(part);
      if (param) {
        node.param ??= { name: param[1]!, node: newNode() };
        node = node.param.node;
      } else {
        let next = node.fixed.get(part);
        if (!next) node.fixed.set(part, (next = newNode()));
        node = next;
      }
    }
    node.leaf = leaf;
  }

  /** `parts`: of the path between its slashes, each percent-decoded by itself. */
  find(parts: readonly string[]): Found | null {
    const given: string[] = [];
    const leaf = this.#walk(this.#root, parts, 0, given);
    if (leaf === null) return null;
    const params: Record<string, string> = {};
    for (let i = 0; i < given.length; i += 2) params[given[i]!] = given[i + 1]!;
    return { pattern: leaf.pattern, handlers: leaf.handlers, params };
  }

  #walk(node: Node, parts: readonly string[], at: number, given: string[]): Leaf | null {
    if (at === parts.length) return node.leaf;
    const part = parts[at]!;
    const fixed = node.fixed.get(part);
    const byName = fixed === undefined ? null : this.#walk(fixed, parts, at + 1, given);
    if (byName !== null) return byName;
    const { param, rest } = node;
    // An empty part is no value.
    if (param !== null && part !== '') {
      given.push(param.name, part);
      const byParam = this.#walk(param.node, parts, at + 1, given);
      if (byParam !== null) return byParam;
      given.length -= 2;
    }
    if (rest === null) return null;
    given.push(rest.name, parts.slice(at).join('/'));
    return rest.leaf;
  }
}
