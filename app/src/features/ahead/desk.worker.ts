import { hearer, type Told } from './desk.ts';

const hear = hearer();
globalThis.onmessage = ({ data }: MessageEvent<Told>) => {
  const said = hear(data);
  if (said) globalThis.postMessage(said);
};
