/** For tests and benches: an integer programme as text (CPLEX LP), as a solver reads it. */
export interface Programme {
  readonly objective: readonly string[];
  readonly rows: readonly string[];
  readonly binaries: readonly string[];
}

export function programmeText({ objective, rows, binaries }: Programme): string {
  return [
    'Minimize',
    `obj: ${objective.join(' + ')}`,
    'Subject To',
    ...rows.map((row, i) => `r${String(i)}: ${row}`),
    'Binaries',
    ...binaries,
    'End',
  ].join('\n');
}
