/** An OpenType feature for a range of the text, in UTF-16 offsets; everywhere where it has none. */
export interface FeatureRange {
  tag: string;
  value: number;
  start?: number;
  end?: number;
}
