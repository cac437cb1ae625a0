import type { ReactNode } from 'react';
import { Pressable, TextInput, View } from 'react-native';
import { Card } from '../../ui/Card.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { FONT, THUMB, useLook } from '../../ui/look.ts';
import { rem } from '../../ui/rem.ts';

interface PanelProps {
  title: string;
  onClose: () => void;
  children: ReactNode;
}

/** The controls for one part of the sentence, in place under it. */
export function Panel({ title, onClose, children }: PanelProps) {
  return (
    <Card label={title} style={{ paddingBottom: 10 }}>
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', alignItems: 'center' }}>
        <Heading level={2} size={16}>
          {title}
        </Heading>
        <WordLink label="Hide" name={`Hide: ${title}`} onPress={onClose} />
      </View>
      {children}
    </Card>
  );
}

interface StepperProps {
  label: string;
  value: number;
  least?: number;
  most: number;
  onChange: (value: number) => void;
}

/** A whole number, from 1 unless said otherwise: one less, one more, or typed. */
export function Stepper({ label, value, least = 1, most, onChange }: StepperProps) {
  const look = useLook();
  const set = (n: number) => {
    if (Number.isInteger(n) && n >= least && n <= most) onChange(n);
  };
  const button = (sign: string, name: string, to: number) => (
    <Pressable
      role="button"
      aria-label={`${label}: ${name}`}
      onPress={() => set(to)}
      disabled={to < least || to > most}
      style={{
        width: THUMB,
        height: THUMB,
        borderWidth: 1.5,
        borderColor: to < least || to > most ? look.track : look.ink,
        borderRadius: 10,
        alignItems: 'center',
        justifyContent: 'center',
      }}
    >
      <Words size={19} weight={650} tint={to < least || to > most ? 'soft' : 'ink'}>
        {sign}
      </Words>
    </Pressable>
  );
  return (
    <View style={{ flexDirection: 'row', alignItems: 'center', gap: 6 }}>
      {button('−', 'one less', value - 1)}
      <TextInput
        aria-label={label}
        value={String(value)}
        onChangeText={(text) => set(Number(text.replace(/\D/gu, '')))}
        inputMode="numeric"
        selectTextOnFocus
        style={{
          width: rem(58),
          minHeight: THUMB,
          textAlign: 'center',
          fontFamily: FONT,
          fontSize: rem(18),
          fontWeight: '650' as never,
          color: look.ink,
        }}
      />
      {button('+', 'one more', value + 1)}
    </View>
  );
}
