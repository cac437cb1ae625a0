import type { DoorView } from '@back-again/contract/doors';
import { View } from 'react-native';
import { usePerson, useShown } from '../../data/todos.ts';
import { instantText } from '../../ui/dates.ts';
import { Action } from '../../ui/Action.tsx';
import { Rule } from '../../ui/Rule.tsx';
import { Words } from '../../ui/Words.tsx';
import { useWithdrawMutation } from './doorsApi.ts';

interface DoorListProps {
  doors: readonly DoorView[];
  /** What one is called. */
  nameOf: (door: DoorView) => string;
  aboutOf: (door: DoorView) => string;
  none: string;
}

/** Keys and addresses that were made: each can be withdrawn, and opens nothing from then on. */
export function DoorList({ doors, nameOf, aboutOf, none }: DoorListProps) {
  const person = usePerson();
  const { today } = useShown();
  const [withdraw] = useWithdrawMutation();
  const at = (instant: string) =>
    person ? instantText(instant, today, person.settings) : instant.slice(0, 10);
  if (!doors.length)
    return (
      <Words size={15} tint="soft">
        {none}
      </Words>
    );
  return (
    <View role="list">
      {doors.map((door, i) => (
        <View key={door.id} role="listitem">
          {i ? <Rule /> : null}
          <View style={{ flexDirection: 'row', alignItems: 'center', gap: 12, paddingVertical: 8 }}>
            <View style={{ flex: 1, minWidth: 0 }}>
              <Words weight={600}>{nameOf(door)}</Words>
              <Words size={14} tint="soft">
                {[
                  aboutOf(door),
                  `made ${at(door.createdAt)}`,
                  door.usedAt ? `last used ${at(door.usedAt)}` : 'never used',
                ]
                  .filter(Boolean)
                  .join(' · ')}
              </Words>
            </View>
            <Action
              label="Withdraw"
              name={`Withdraw: ${nameOf(door)}`}
              onPress={() => void withdraw(door.id)}
            />
          </View>
        </View>
      ))}
    </View>
  );
}
