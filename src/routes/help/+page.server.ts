import { marked, Renderer } from 'marked';
import type { PageServerLoad } from './$types';
import { anchorOf } from '$lib/ui/frame/help.ts';
import using from '../../../docs/using.md?raw';

/** Headings can be led to: a screen's help names them. */
class Anchored extends Renderer {
  override heading({ depth, text, tokens }: Parameters<Renderer['heading']>[0]): string {
    const says = this.parser.parseInline(tokens);
    return `<h${depth} id="${anchorOf(text)}">${says}</h${depth}>`;
  }
}

const [title, ...rest] = using.split('\n');
const html = marked.parse(rest.join('\n'), { renderer: new Anchored(), async: false });
const tasks = [...using.matchAll(/^## (.+)$/gm)].map(([, task]) => task!);

/** docs/using.md as it came with this version: nothing of it is typed by anybody here. */
export const load: PageServerLoad = () => ({
  title: title!.replace(/^# /, ''),
  html,
  tasks: tasks.map((task) => ({ task, anchor: anchorOf(task) }))
});
