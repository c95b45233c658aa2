/** A line of an exploded bill, in the order it is exploded: what is under a line follows it. */
export interface TreeLine {
  level: number;
  product: string;
  name: string;
  unit: string;
  planned: string;
}

/** What is asked of a product over all its lines, and what of it may be used. */
export interface TreeNeed {
  product: string;
  unit: string;
  planned: string;
  onHand: string;
  short: string;
  made: boolean;
}

export interface Branch {
  line: TreeLine;
  under: Branch[];
}

/** Lines as a tree: each stands under the last line of the level above. */
export function branchesOf(lines: readonly TreeLine[]): Branch[] {
  const roots: Branch[] = [];
  /** The branch each level was last at. */
  const path: Branch[] = [];
  for (const line of lines) {
    const branch: Branch = { line, under: [] };
    path.length = line.level - 1;
    const above = path.at(-1);
    (above ? above.under : roots).push(branch);
    path.push(branch);
  }
  return roots;
}
