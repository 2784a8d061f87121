import { Segment } from '@yucca/engine';
import { closeSync, fstatSync, fsyncSync, mkdirSync, openSync, readSync, renameSync, rmSync, writeSync } from 'node:fs';
import path from 'node:path';
import { sharedMemory } from './shared-memory';

const PIECE = 64 * 1024 * 1024;

/** Writes a segment so that its file is there whole or not at all: a new name, flushed, then renamed. */
export function writeSegmentFile(file: string, buffer: SharedArrayBuffer): void {
  mkdirSync(path.dirname(file), { recursive: true });
  const half = `${file}.part`;
  const handle = openSync(half, 'w');
  try {
    for (let at = 0; at < buffer.byteLength;) {
      at += writeSync(handle, new Uint8Array(buffer, at, Math.min(PIECE, buffer.byteLength - at)));
    }
    fsyncSync(handle);
    closeSync(handle);
  } catch (error) {
    closeSync(handle);
    // A half file on a full disk is in the way of everybody else.
    rmSync(half, { force: true });
    throw error;
  }
  renameSync(half, file);
}

/** A segment out of its files. */
export interface OpenedFiles {
  buffer: SharedArrayBuffer;
  added: SharedArrayBuffer[];
}

/**
 * Reads a segment and the column segments beside it into shared memory and checks them. Throws when a file is missing,
 * cut or damaged, or of another segment.
 */
export function readSegmentFiles(file: string, addedFiles: readonly string[]): OpenedFiles {
  const [buffer, added] = [bytesOf(file), addedFiles.map(bytesOf)];
  new Segment(buffer, { added });
  return { buffer, added };
}

function bytesOf(file: string): SharedArrayBuffer {
  const handle = openSync(file, 'r');
  try {
    const buffer = sharedMemory(fstatSync(handle).size);
    for (let at = 0; at < buffer.byteLength;) {
      const read = readSync(handle, new Uint8Array(buffer, at, Math.min(PIECE, buffer.byteLength - at)));
      if (read === 0) throw new Error(`${file} ended early`);
      at += read;
    }
    return buffer;
  } finally {
    closeSync(handle);
  }
}
