import { inspectFile, type InspectOptions } from '@/inspect/inspect-file';

/** What the thread is asked: one question, and then it is over. */
export interface InspectQuestion {
  file: File;
  how: InspectOptions;
}

self.onmessage = ({ data: { file, how } }: MessageEvent<InspectQuestion>): void => {
  inspectFile(file, how).then(
    (inspection) => self.postMessage({ inspection }),
    (error: Error) => self.postMessage({ failed: error.message }),
  );
};
