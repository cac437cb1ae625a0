import { CoreError } from '@back-again/core';
import { lookAt, type Looked, type Told } from './looking.ts';

const tell = (told: Told) => globalThis.postMessage(told);

globalThis.onmessage = ({ data }: MessageEvent<Looked>) => {
  try {
    tell({ kind: 'found', found: lookAt(data, (done, of) => tell({ kind: 'far', done, of })) });
  } catch (error) {
    const words = error instanceof CoreError ? error.message : 'This file cannot be read.';
    tell({ kind: 'wrong', words });
  }
};
