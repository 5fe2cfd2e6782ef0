/**
 * `npm test`: installs Debian's chromium and ffmpeg where they are missing and may be installed, then
 * checks types, lint and format, and runs the unit tests and the browser journeys. Its last line is
 * `N passed, N failed`; it exits non-zero when anything failed. `npm run check` is the same `--without-journeys`,
 * `npm run journeys` is the journeys alone, `--only-journeys`.
 */
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';

const withJourneys = !process.argv.includes('--without-journeys');
const withChecks = !process.argv.includes('--only-journeys');
const root = join(import.meta.dirname, '..');
const work = join(import.meta.dirname, '.work');
mkdirSync(work, { recursive: true });

function call(command: string, args: readonly string[], env: Record<string, string> = {}): boolean {
  console.log(`\n> ${command} ${args.join(' ')}`);
  return (
    spawnSync(command, args, {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, ...env },
    }).status === 0
  );
}

/** Programs the tests need, by the Debian package that brings them. */
const NEEDED = [
  { program: '/usr/bin/chromium', package: 'chromium' },
  { program: '/usr/bin/ffmpeg', package: 'ffmpeg' },
];
const missing = NEEDED.filter((n) => !existsSync(n.program)).map((n) => n.package);
if (withJourneys && missing.length > 0) {
  const asRoot = process.getuid?.() === 0 ? [] : ['sudo', '-n'];
  const apt = (...args: string[]) =>
    call([...asRoot, 'apt-get'][0]!, [...[...asRoot, 'apt-get'].slice(1), ...args], {
      DEBIAN_FRONTEND: 'noninteractive',
    });
  if (!apt('update', '-qq') || !apt('install', '-y', '-qq', ...missing)) {
    console.error(`These Debian packages are missing and could not be installed: ${missing.join(', ')}.`);
    console.log('0 passed, 1 failed');
    process.exit(1);
  }
}

let passed = 0;
let failed = 0;
const count = (ok: boolean) => (ok ? passed++ : failed++);

/** One of the checks that need nothing of one another; what it says comes when it has ended. */
const check = (script: string) =>
  new Promise<boolean>((resolve) => {
    const child = spawn('npm', ['run', '--silent', script], { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
    let said = '';
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (part: Buffer) => (said += String(part)));
    child.on('close', (code) => {
      console.log(`\n> npm run --silent ${script}\n${said.trim()}`);
      resolve(code === 0);
    });
  });

async function checks(): Promise<void> {
  for (const ok of await Promise.all(['types', 'lint', 'format:check'].map(check))) count(ok);
  const report = join(work, 'unit.json');
  rmSync(report, { force: true });
  const ok = call('npx', ['jest', '--ci', '--json', `--outputFile=${report}`, '--silent']);
  if (!existsSync(report)) return void failed++;
  const unit = JSON.parse(readFileSync(report, 'utf8')) as {
    numPassedTests: number;
    numFailedTests: number;
  };
  passed += unit.numPassedTests;
  failed += unit.numFailedTests;
  if (!ok && unit.numFailedTests === 0) failed++;
}

/** The journeys that `which` leaves, counted. */
function journeys(...which: string[]): void {
  const report = join(work, 'journeys.json');
  rmSync(report, { force: true });
  const ok = call(
    'npx',
    ['playwright', 'test', '-c', 'e2e/playwright.config.ts', '--reporter=list,json', ...which],
    { PLAYWRIGHT_JSON_OUTPUT_FILE: report },
  );
  if (!existsSync(report)) return void failed++;
  const { stats } = JSON.parse(readFileSync(report, 'utf8')) as {
    stats: { expected: number; unexpected: number; flaky: number };
  };
  passed += stats.expected;
  failed += stats.unexpected + stats.flaky;
  if (!ok && stats.unexpected + stats.flaky === 0) failed++;
}

if (withChecks) await checks();
if (withJourneys) {
  if (call('npm', ['run', '--silent', 'build'])) {
    journeys('--grep-invert', '@alone');
    // What is measured in real time has nothing beside it.
    journeys('--grep', '@alone', '--workers=1', '--output', join(work, 'results-alone'));
  } else failed++;
}

console.log(`\n${passed} passed, ${failed} failed`);
process.exitCode = failed > 0 ? 1 : 0;
