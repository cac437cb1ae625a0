import Tooltip from '@rneui/themed/dist/Tooltip';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { Words } from './Words.tsx';
import { useLook } from './look.ts';

interface HintProps {
  /** What is said of it when it is touched. */
  words: string;
  width: number;
  children: ReactNode;
}

/** Something that says more of itself when it is touched; a screen reader is told it at once. */
export function Hint({ words, width, children }: HintProps) {
  const look = useLook();
  const [visible, setVisible] = useState(false);
  return (
    <View role="group" aria-label={words}>
      <Tooltip
        visible={visible}
        onOpen={() => setVisible(true)}
        onClose={() => setVisible(false)}
        popover={
          <Words size={14.5} style={{ color: look.paper }}>
            {words}
          </Words>
        }
        backgroundColor={look.ink}
        pointerColor={look.ink}
        withOverlay={false}
        animationType="none"
        width={width}
        height={44}
        containerStyle={{ borderRadius: 8 }}
      >
        {children}
      </Tooltip>
    </View>
  );
}
