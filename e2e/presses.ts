import type { Locator, Page } from '@playwright/test';
import { expect } from './journey';

/** Does a job as a person would, and counts: a click, a key, a choice, a typed value, a drag are one each. */
export class Presses {
  count = 0;
  constructor(
    readonly page: Page,
    /** What the job is, and how many presses it may take. */
    readonly job: string,
    readonly aim: number,
  ) {}

  async click(what: Locator): Promise<void> {
    this.count++;
    await what.click();
  }

  button = (name: string | RegExp): Promise<void> =>
    this.click(this.page.getByRole('button', { name, exact: typeof name === 'string' }).first());

  add = (name: string): Promise<void> => this.button(new RegExp(`^Add ${name}\\.`));

  /** Puts a recipe on: the tab, unless it is open, and its card. */
  async recipe(name: string): Promise<void> {
    const tab = this.page.getByRole('button', { name: 'Recipes', exact: true });
    if ((await tab.getAttribute('aria-pressed')) !== 'true') await this.click(tab);
    await this.button(new RegExp(`^Put on ${name}`));
    await this.page.mouse.move(480, 250);
  }

  async key(key: string): Promise<void> {
    this.count++;
    await this.page.keyboard.press(key);
  }

  async type(label: string, value: string): Promise<void> {
    this.count++;
    const field = this.page.getByLabel(label, { exact: true }).and(this.page.locator('input, textarea'));
    await field.fill(value);
    await field.press('Enter');
  }

  async choose(label: string, value: string | { label: string }): Promise<void> {
    this.count++;
    await this.page.getByLabel(label, { exact: true }).selectOption(value);
  }

  async menu(of: string, words: string): Promise<void> {
    await this.button(`More for ${of}`);
    await this.click(this.page.getByRole('menuitem', { name: words }));
  }

  async drag(what: Locator, dx: number, dy: number): Promise<void> {
    this.count++;
    const box = (await what.boundingBox())!;
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await this.page.mouse.move(x, y);
    await this.page.mouse.down();
    await this.page.mouse.move(x + dx / 2, y + dy / 2, { steps: 3 });
    await this.page.mouse.move(x + dx, y + dy, { steps: 3 });
    await this.page.mouse.up();
  }

  /** Says how many it took; that is not more than it may. */
  done(): void {
    console.log(`presses: ${this.job}: ${this.count} (aim ${this.aim})`);
    expect(this.count, this.job).toBeLessThanOrEqual(this.aim);
  }
}
