/** Levels by place in `marks`, from where each level begins. */
export function levelsOf({
  marks,
  levelStarts
}: {
  marks: { length: number };
  levelStarts: readonly number[];
}): Uint32Array {
  const levels = new Uint32Array(marks.length);
  levelStarts.forEach((start, level) => {
    levels.fill(level, start, levelStarts[level + 1] ?? marks.length);
  });
  return levels;
}
