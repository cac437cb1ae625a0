import type { Left } from '@back-again/core';
import { View } from 'react-native';
import { Action } from '../Action.tsx';
import { Words } from '../Words.tsx';
import { useInSight } from '../inSight.ts';

interface LeftStepsProps {
  /** What the time is called. */
  name: string;
  /** How many steps are left. */
  left: number;
  onDone: (left: Left) => void;
  onNotYet: () => void;
}

/** Some steps of a time are left: what is to become of them. */
export function LeftSteps({ name, left, onDone, onNotYet }: LeftStepsProps) {
  // On a phone it may open below what is in sight.
  const asked = useInSight();
  const isOne = left === 1;
  return (
    <View ref={asked} role="group" aria-label={`Steps that are left: ${name}`} style={{ gap: 6 }}>
      <Words size={15.5} weight={600}>
        {isOne ? 'One step is left.' : `${left} steps are left.`}
      </Words>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
        <Action
          label={isOne ? 'Finish without it' : 'Finish without them'}
          name={`Finish without what is left: ${name}`}
          filled
          onPress={() => onDone('drop')}
        />
        <Action
          label={isOne ? 'Keep it for itself' : 'Keep them for themselves'}
          name={`Finish, and keep what is left as a one-off: ${name}`}
          onPress={() => onDone('keep')}
        />
        <Action label="Not yet" name={`Not yet: ${name}`} onPress={onNotYet} />
      </View>
    </View>
  );
}
