/**
 * `npm test`: installs Debian's chromium and ffmpeg where they are missing and may be installed, then
 * checks types, lint and format, and runs the unit tests and the browser journeys. Its last line is
 * `N passed, N failed`; it exits non-zero when anything failed. `npm run check` is the same `--without-journeys`.
 */
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';

const withJourneys = !process.argv.includes('--without-journeys');
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
for (const ok of await Promise.all(['types', 'lint', 'format:check'].map(check))) count(ok);

const unitReport = join(work, 'unit.json');
rmSync(unitReport, { force: true });
const unitOk = call('npx', ['jest', '--ci', '--json', `--outputFile=${unitReport}`, '--silent']);
if (existsSync(unitReport)) {
  const unit = JSON.parse(readFileSync(unitReport, 'utf8')) as {
    numPassedTests: number;
    numFailedTests: number;
    success: boolean;
  };
  passed += unit.numPassedTests;
  failed += unit.numFailedTests;
  if (!unitOk && unit.numFailedTests === 0) failed++;
} else failed++;

const journeyReport = join(work, 'journeys.json');
rmSync(journeyReport, { force: true });
if (withJourneys && call('npm', ['run', '--silent', 'build'])) {
  const journeysOk = call(
    'npx',
    ['playwright', 'test', '-c', 'e2e/playwright.config.ts', '--reporter=list,json'],
    { PLAYWRIGHT_JSON_OUTPUT_FILE: journeyReport },
  );
  if (existsSync(journeyReport)) {
    const { stats } = JSON.parse(readFileSync(journeyReport, 'utf8')) as {
      stats: { expected: number; unexpected: number; flaky: number };
    };
    passed += stats.expected;
    failed += stats.unexpected + stats.flaky;
    if (!journeysOk && stats.unexpected + stats.flaky === 0) failed++;
  } else failed++;
} else if (withJourneys) failed++;

console.log(`\n${passed} passed, ${failed} failed`);
process.exitCode = failed > 0 ? 1 : 0;
