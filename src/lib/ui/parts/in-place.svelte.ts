import { refresh } from '../frame/refresh.ts';
import { askUnlessKept, type Unsaved } from '../frame/ask-before-leaving.ts';
import type { Refusal, Reply } from '../frame/api.ts';

/** Told here where it is seen before anything is sent. */
const CHANGED: Refusal = {
  status: 412,
  title: 'It is not what you saw',
  errors: [
    {
      code: 'record.changed',
      path: '',
      message:
        'Somebody else changed this since you opened it. Look at what it is now, then keep yours again.'
    }
  ]
};

/**
 * A stretch of a page that is read first and changed where it stands. What is typed stays until it
 * is kept or left, whatever is refused and whatever others change meanwhile. Made while its screen
 * is.
 */
export class InPlace<Form extends object> {
  /** What is typed; null while the stretch is read. */
  form = $state<Form | null>(null);
  refusal = $state.raw<Refusal | null>(null);
  busy = $state(false);
  /** Whether it was kept just now. */
  justKept = $state(false);
  private readonly unsaved: Unsaved;
  /** What stood there when that was last seen. */
  private read = '';

  /**
   * @param fill what stands there now, as it is typed
   * @param put sends what was typed
   */
  constructor(
    private readonly fill: () => Form,
    private readonly put: (form: Form) => Promise<Reply<unknown>>
  ) {
    this.unsaved = askUnlessKept(() => this.form);
  }

  get changed(): boolean {
    return this.unsaved.changed();
  }

  /** Whether somebody else changed it since it was read here. */
  get overtaken(): boolean {
    return this.refusal?.errors.some((error) => error.code === 'record.changed') ?? false;
  }

  change(): void {
    this.show(this.fill());
    this.read = JSON.stringify(this.form);
    this.justKept = false;
  }

  /** Leaves it as it was; asks where something was typed. @returns whether it was left */
  leave(): boolean {
    if (!this.unsaved.mayGo()) return false;
    this.show(null);
    return true;
  }

  /** @returns whether it was kept */
  async keep(): Promise<boolean> {
    if (this.form === null || this.busy) return false;
    if (this.isAnotherNow()) return false;
    this.busy = true;
    const reply = await this.put($state.snapshot(this.form) as Form);
    this.refusal = reply.ok ? null : reply.refusal;
    if (!reply.ok) {
      this.busy = false;
      // What it is now is shown beside what was typed.
      if (this.overtaken) {
        await refresh();
        this.read = JSON.stringify(this.fill());
      }
      return false;
    }
    // It is read again only once what is read is what was kept.
    this.unsaved.kept();
    await refresh();
    this.busy = false;
    this.show(null);
    this.justKept = true;
    return true;
  }

  /** Shows a form as it was filled in, or what is read where there is none. */
  private show(form: Form | null): void {
    this.form = form;
    this.refusal = null;
    this.unsaved.kept();
  }

  /**
   * Whether what stood there was read anew since it was opened, and is another: told once, so that
   * nobody undoes what they did not see.
   */
  private isAnotherNow(): boolean {
    const now = JSON.stringify(this.fill());
    if (now === this.read) return false;
    this.read = now;
    this.refusal = CHANGED;
    return true;
  }
}
