import { checkKeys } from './check-key';
import type { RowsWanted } from './rows-of-file';

/** What the thread is asked: one question, and then it is over. */
export interface KeyQuestion {
  file: Blob;
  wanted: RowsWanted;
  fields: readonly string[];
}

self.onmessage = ({ data: { file, wanted, fields } }: MessageEvent<KeyQuestion>): void => {
  checkKeys(file, wanted, fields, (share) => self.postMessage({ share })).then(
    (check) => self.postMessage({ check }),
    (error: Error) => self.postMessage({ failed: error.message }),
  );
};
