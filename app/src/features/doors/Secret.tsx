import { useState } from 'react';
import { View } from 'react-native';
import { Action } from '../../ui/Action.tsx';
import { Words } from '../../ui/Words.tsx';
import { FONT, useLook } from '../../ui/look.ts';

/** A key or an address that is shown once: to be copied now. */
export function Secret({ name, text, onHide }: { name: string; text: string; onHide: () => void }) {
  const look = useLook();
  const [copied, setCopied] = useState(false);
  const copy = () => {
    void navigator.clipboard?.writeText(text).then(
      () => setCopied(true),
      () => setCopied(false),
    );
  };
  return (
    <View style={{ backgroundColor: look.slateFill, borderRadius: 10, padding: 14, gap: 8 }}>
      <Words size={15} weight={600} live>
        {`${name}: it is shown only now. Keep it where nobody else looks.`}
      </Words>
      <Words
        size={15}
        testID="secret"
        style={{
          fontFamily: `ui-monospace, monospace, ${FONT}`,
          ...({ wordBreak: 'break-all', userSelect: 'all' } as object),
        }}
      >
        {text}
      </Words>
      <View style={{ flexDirection: 'row', gap: 10 }}>
        <Action label={copied ? 'Copied' : 'Copy'} name={`Copy: ${name}`} onPress={copy} />
        <Action label="I have it" name={`Hide: ${name}`} onPress={onHide} />
      </View>
    </View>
  );
}
