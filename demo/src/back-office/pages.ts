/** The pages of the back office, as plain as such a tool is. */
import type { FeedComparison, FeedRepair } from '@yucca/contract';
import type { Plant, Store, Trouble } from './store.ts';

const escaped = (value: unknown): string => String(value).replace(/[&<>"']/g, (letter) => `&#${letter.charCodeAt(0)};`);

const page = (title: string, body: string): string => `<!doctype html>
<html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escaped(title)}</title>
<link rel="stylesheet" href="/style.css">
<header><a href="/">Quillbrook back office</a></header><main>${body}</main></html>`;

export const STYLE = `body{margin:0;font:15px/1.5 system-ui,sans-serif;color:#1d241f;background:#f4f2ec}
header{background:#2f3a33;padding:.6rem 1rem}header a{color:#f4f2ec;text-decoration:none;font-weight:600}
main{max-width:60rem;margin:1rem auto;padding:0 1rem;display:grid;gap:1rem}
table{border-collapse:collapse;width:100%;background:#fff}th,td{text-align:left;padding:.35rem .6rem;border-bottom:1px solid #ddd7c8}
form{display:flex;gap:.8rem;flex-wrap:wrap;align-items:end}label{display:grid}input{font:inherit;padding:.3rem .4rem}
button{font:inherit;padding:.35rem .8rem}`;

export function listPage(store: Store, words: string): string {
  const rows = store
    .plants(words, 40)
    .map(
      ({ id, name, price, stock }) =>
        `<tr><td><a href="/plants/${encodeURIComponent(id)}">${escaped(id)}</a></td><td>${escaped(name)}</td><td>${escaped(price)}</td><td>${escaped(stock)}</td></tr>`,
    );
  return page(
    'Plants',
    `<form method="get"><label>Find a plant <input name="q" value="${escaped(words)}"></label><button>Find</button></form>
     <table><thead><tr><th>Id</th><th>Name</th><th>Price</th><th>In stock</th></tr></thead><tbody>${rows.join('')}</tbody></table>
     <p>${store.waiting} changes wait to be told. <a href="/line">The line to the search</a></p>`,
  );
}

export function plantPage({ id, name, price, stock }: Plant): string {
  return page(
    name,
    `<h1>${escaped(id)}</h1>
     <form method="post" action="/plants/${encodeURIComponent(id)}">
       <label>Name <input name="name" value="${escaped(name)}" size="40" required></label>
       <label>Price <input name="price" type="number" step="0.01" min="0" value="${escaped(price)}" required></label>
       <label>In stock <input name="stock" type="number" min="0" value="${escaped(stock)}" required></label>
       <button name="do" value="save">Save</button><button name="do" value="delete">No longer for sale</button>
     </form>`,
  );
}

export function linePage({ lose, repeat, reorder, delayMs, stopped }: Trouble, waiting: number): string {
  const share = (name: string, label: string, value: number): string =>
    `<label>${label} <input name="${name}" type="number" min="0" max="100" value="${value * 100}"></label>`;
  return page(
    'The line',
    `<h1>The line to the search</h1><p>${waiting} changes wait to be told.</p>
     <form method="post" action="/line">
       ${share('lose', 'Lose, %', lose)}${share('repeat', 'Repeat, %', repeat)}${share('reorder', 'Reorder, %', reorder)}
       <label>Delay, ms <input name="delayMs" type="number" min="0" max="60000" value="${delayMs}"></label>
       <label>Stopped <input name="stopped" type="checkbox"${stopped ? ' checked' : ''}></label>
       <button>Save</button>
     </form>
     <form method="post" action="/compare"><button>Compare all plants with the search</button></form>`,
  );
}

export function comparedPage({ same, missing, different, extra }: FeedComparison, repaired: FeedRepair | null): string {
  const rows = Object.entries({ Same: same, 'Missing there': missing, Different: different, 'Only there': extra });
  const table = rows.map(([name, value]) => `<tr><td>${name}</td><td>${value}</td></tr>`).join('');
  return page(
    'Compared',
    `<h1>Compared with the search</h1>
     ${repaired ? `<p>${repaired.written} plants were written and ${repaired.deleted} deleted there.</p>` : ''}
     <table><tbody>${table}</tbody></table>
     <form method="post" action="/repair"><button>Make the search the same</button></form>`,
  );
}

export const missingPage = (): string => page('Not here', '<p>There is no such plant.</p>');
