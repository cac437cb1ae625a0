import { Suspense, lazy } from 'react';
import { Words } from './Words.tsx';

const Markdown = lazy(() => import('./Markdown.tsx'));

/** Markdown, with what shows it loaded when it is first needed; until then its plain text. */
export function LazyMarkdown({ text }: { text: string }) {
  return (
    <Suspense fallback={<Words size={15.5}>{text}</Words>}>
      <Markdown text={text} />
    </Suspense>
  );
}
