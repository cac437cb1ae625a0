import type { Settings } from '@back-again/core';
import { View } from 'react-native';
import { Words } from '../../ui/Words.tsx';
import { instantText } from '../../ui/dates.ts';
import type { Preview } from './preview.ts';

interface MomentsProps {
  preview: Preview;
  settings: Settings;
  /** Whether the reminders are the person's usual ones. */
  isUsual: boolean;
}

/** When something is said about it, as dates. */
export function Moments({ preview, settings, isUsual }: MomentsProps) {
  const { reminders, today, silent } = preview;
  if (!reminders.length && !silent) return null;
  const moments = reminders.map((at) => instantText(at, today, settings));
  return (
    <View role="region" aria-label="When you are reminded">
      <Words size={15}>
        <Words size={15} weight={650}>
          {moments.length ? 'Reminds you ' : 'No reminder of this time: '}
        </Words>
        {moments.length ? moments.join(' · ') : 'its moments have gone by.'}
      </Words>
      {isUsual ? (
        <Words size={14.5} tint="soft">
          Your usual reminder for new ones, from Settings.
        </Words>
      ) : null}
    </View>
  );
}
