/** What bringing one row back comes to. */
export interface ImportRow {
  readonly what:
    | 'unit'
    | 'drive'
    | 'plan'
    | 'order'
    | 'profile'
    | 'tested model'
    | 'paper'
    | 'readings'
    | 'organisation'
    | 'comparison'
    | 'prices'
    | 'calendar'
    | 'rule';
  readonly name: string;
  readonly verdict: 'added' | 'changed' | 'unchanged' | 'refused';
  readonly detail: string;
}
