import { momentText, type LocalDate, type LocalMoment } from '@back-again/core';
import { router } from 'expo-router';
import { useEffect, type ReactNode } from 'react';
import { View } from 'react-native';
import { errorOf } from '../../data/api.ts';
import { Action } from '../../ui/Action.tsx';
import { Alone } from '../../ui/Alone.tsx';
import { ReturnArc } from '../../ui/ReturnArc.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';

interface OneTouchProps {
  view: { state: string; title: string; due: LocalMoment | null; today: LocalDate } | undefined;
  /** The heading, where the to-do has no title to show. */
  untitled?: string;
  noDate: string;
  isBusy: boolean;
  onDone(): void;
  /** What is said below the button. */
  hint?: string;
  wrong: Parameters<typeof errorOf>[0];
  /** What is said of a to-do that is not open. */
  children: ReactNode;
}

/** One to-do with one button, for who has its address: without signing in. */
export function OneTouch(props: OneTouchProps) {
  const { view, untitled = '', noDate, isBusy, onDone, hint, wrong, children } = props;
  useEffect(() => {
    document.title = 'Back Again';
  }, []);
  return (
    <Alone maxWidth={440} alignItems="flex-start">
      <ReturnArc
        kind="fixed"
        state={view?.state === 'done' ? { at: 'done' } : { at: 'way', share: 1 }}
        scale={1.5}
      />
      {view ? <Heading level={1}>{view.title || untitled}</Heading> : null}
      {view?.state === 'open' ? (
        <>
          <Words size={17}>
            {view.due ? `Due ${momentText(view.due, view.today, true)}.` : noDate}
          </Words>
          <Action label="Done" name={`Done: ${view.title}`} filled busy={isBusy} onPress={onDone} />
          {hint ? (
            <Words size={15} tint="soft">
              {hint}
            </Words>
          ) : null}
        </>
      ) : null}
      <View aria-live="polite" style={{ gap: 6 }}>
        {children}
        {wrong ? <Words size={17}>{errorOf(wrong).message}</Words> : null}
      </View>
      <WordLink label="Open Today" size={16} onPress={() => router.push('/')} />
    </Alone>
  );
}
