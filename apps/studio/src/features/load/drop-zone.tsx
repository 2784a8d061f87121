'use client';

import { createContext, useCallback, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { guessFormat } from '@yucca/engine/understand';
import { Button } from '@/ui/button';
import { droppedFiles } from './dropped-files';
import { LoadPanel } from './load-panel';

interface Loading {
  /** Opens the file chooser of the browser. */
  choose: () => void;
}

const LoadingContext = createContext<Loading>({ choose: () => {} });

/** How any screen starts a load other than by a drop. */
export const useLoading = (): Loading => useContext(LoadingContext);

/** Takes files dropped or data pasted anywhere in the studio, one after the other. */
export function DropZone({ children }: { children: ReactNode }) {
  const [files, setFiles] = useState<File[]>([]);
  const [over, setOver] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const depth = useRef(0);
  const add = useCallback((more: Iterable<File>) => setFiles((waiting) => [...waiting, ...more]), []);

  useEffect(() => {
    const holdsFiles = (event: DragEvent): boolean => event.dataTransfer?.types.includes('Files') ?? false;
    const onEnter = (event: DragEvent): void => {
      if (!holdsFiles(event)) return;
      depth.current++;
      setOver(true);
    };
    const onLeave = (event: DragEvent): void => {
      if (holdsFiles(event) && --depth.current <= 0) setOver(false);
    };
    const onOver = (event: DragEvent): void => {
      if (holdsFiles(event)) event.preventDefault();
    };
    const onDrop = (event: DragEvent): void => {
      if (!holdsFiles(event)) return;
      event.preventDefault();
      depth.current = 0;
      setOver(false);
      setProblem(null);
      droppedFiles(event.dataTransfer!).then(add, (error: Error) => setProblem(error.message));
    };
    const onPaste = (event: ClipboardEvent): void => {
      if (event.target instanceof HTMLElement && event.target.matches('input, textarea')) return;
      if (event.clipboardData?.files.length) return add(event.clipboardData.files);
      const text = event.clipboardData?.getData('text/plain') ?? '';
      if (guessFormat(new TextEncoder().encode(text.slice(0, 65_536))).ok) add([new File([text], 'pasted')]);
    };
    window.addEventListener('dragenter', onEnter);
    window.addEventListener('dragleave', onLeave);
    window.addEventListener('dragover', onOver);
    window.addEventListener('drop', onDrop);
    window.addEventListener('paste', onPaste);
    return () => {
      window.removeEventListener('dragenter', onEnter);
      window.removeEventListener('dragleave', onLeave);
      window.removeEventListener('dragover', onOver);
      window.removeEventListener('drop', onDrop);
      window.removeEventListener('paste', onPaste);
    };
  }, [add]);

  const loading = useMemo(() => ({ choose: () => input.current?.click() }), []);
  const file = files[0];
  return (
    <LoadingContext value={loading}>
      {children}
      <input
        ref={input}
        type="file"
        hidden
        multiple
        data-testid="file-chooser"
        accept=".json,.geojson,.jsonl,.ndjson,.csv,.tsv,.txt,.xlsx,.yaml,.yml,.xml,.rss,.atom,.parquet,.md,.html,.zip,.gz"
        onChange={(event) => {
          add(event.target.files ?? []);
          event.target.value = '';
        }}
      />
      {over && (
        <div className="pointer-events-none fixed inset-3 z-20 grid place-items-center rounded-md border-2 border-dashed border-agave bg-agave-tint/90">
          <p className="font-head text-[28px] leading-9 font-semibold text-agave">
            Drop it: JSON, CSV, Excel, YAML, XML, Parquet, a folder of pages
          </p>
        </div>
      )}
      {problem && (
        <div
          role="alert"
          className="fixed inset-x-3 bottom-12 z-20 flex items-center gap-4 rounded-md border border-madder bg-raised px-4 py-2"
        >
          <p className="text-madder">{problem}</p>
          <Button className="ml-auto" onClick={() => setProblem(null)}>
            Close
          </Button>
        </div>
      )}
      {file && (
        <LoadPanel
          key={`${file.name}/${file.size}/${files.length}`}
          file={file}
          waiting={files.length - 1}
          onClose={() => setFiles((all) => all.slice(1))}
        />
      )}
    </LoadingContext>
  );
}
