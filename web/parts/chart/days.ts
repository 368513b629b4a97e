/** What a chart over days is drawn of. */
export interface DaysProps {
  readonly label: string;
  /** Day and value, oldest first. */
  readonly points: readonly { readonly day: string; readonly value: number }[];
  readonly unit: string;
  readonly line?: { readonly at: number; readonly words: string };
  readonly most?: number;
  /** Lines of others, thin behind it. */
  readonly beside?: readonly DaysProps['points'][];
}
