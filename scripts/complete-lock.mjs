// npm here cannot fetch some platform bindings (404), leaves them out of the lock, and then `npm ci` refuses the lock.
// Adds an entry for each missing optional platform package; npm ci skips them (os/cpu mismatch) and never fetches them.
import { readFileSync, writeFileSync } from 'node:fs';
const file = process.argv[2] ?? 'package-lock.json';
const lock = JSON.parse(readFileSync(file, 'utf8'));
const P = lock.packages;
const OS = ['darwin', 'win32', 'freebsd', 'android', 'openharmony', 'aix', 'sunos', 'netbsd', 'openbsd', 'linux'];
const CPU = ['arm64', 'armv7', 'arm', 'x64', 'ia32', 'ppc64', 's390x', 'riscv64', 'loong64', 'mips64el', 'wasm32'];
const found = (from, name) => {
  for (let dir = from; ; dir = dir.replace(/(^|\/)node_modules\/(@[^/]+\/)?[^/]+$|^(?!.*node_modules\/).+$/, '')) {
    if (P[`${dir}${dir ? '/' : ''}node_modules/${name}`]) return true;
    if (!dir) return false;
  }
};
let n = 0;
for (const [where, pkg] of Object.entries(P)) {
  for (const [name, version] of Object.entries(pkg.optionalDependencies ?? {})) {
    if (found(where, name)) continue;
    const words = name.split(/[-/]/);
    const os = OS.filter((o) => words.includes(o)),
      cpu = CPU.filter((c) => words.includes(c));
    if (!/^\d+\.\d+\.\d+/.test(version) || (!os.length && !cpu.length)) {
      console.error('skip', name, version);
      continue;
    }
    if (os[0] === process.platform && cpu[0] === process.arch)
      throw new Error(`binding for this machine is missing: ${name}`);
    const key = found('', name) ? `${where}/node_modules/${name}` : `node_modules/${name}`;
    P[key] = {
      version,
      ...(cpu.length && { cpu: cpu.map((c) => (c === 'armv7' ? 'arm' : c)) }),
      ...(pkg.dev && { dev: true }),
      optional: true,
      ...(os.length && { os }),
    };
    n++;
  }
}
lock.packages = Object.fromEntries(Object.entries(P).sort(([a], [b]) => (a < b ? -1 : 1)));
writeFileSync(file, JSON.stringify(lock, null, 2) + '\n');
console.log(`added ${n} entries`);
