import Dialog from '@rneui/themed/dist/Dialog';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { Heading, WordLink } from './Words.tsx';
import { useLook, useWide } from './look.ts';

interface SheetProps {
  title: string;
  /** The word that closes it. */
  close: string;
  onClose: () => void;
  children: ReactNode;
}

/** Something that is looked at for a moment: over the middle of a wide screen, from the foot of a phone. */
export function Sheet({ title, close, onClose, children }: SheetProps) {
  const look = useLook();
  const wide = useWide();
  const inside = (
    <View style={{ gap: 6 }}>
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', alignItems: 'center' }}>
        <Heading level={2} size={17}>
          {title}
        </Heading>
        <WordLink label={close} name={`${close}: ${title}`} onPress={onClose} />
      </View>
      {children}
    </View>
  );
  return (
    <Dialog
      isVisible
      onBackdropPress={onClose}
      overlayStyle={{
        backgroundColor: look.paper,
        borderColor: look.line,
        maxHeight: '85%',
        padding: 20,
        ...(wide ? MIDDLE : FOOT),
      }}
      backdropStyle={{ backgroundColor: BEHIND }}
      {...({ 'aria-label': title, ...UNSPOKEN } as object)}
    >
      {inside}
    </Dialog>
  );
}

const MIDDLE = { width: 440, borderRadius: 14, borderWidth: 1 } as const;
const FOOT = {
  width: '100%',
  marginTop: 'auto',
  paddingBottom: 32,
  borderRadius: 0,
  borderTopLeftRadius: 14,
  borderTopRightRadius: 14,
  borderTopWidth: 1,
} as const;
const BEHIND = 'rgba(26, 19, 32, 0.55)';
/** The ground behind it is touched to close it, and is nothing for a screen reader or the tabulator. */
const UNSPOKEN = { pressableProps: { 'aria-hidden': true, tabIndex: -1 } };
