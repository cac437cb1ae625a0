import { useDispatch } from 'react-redux';
import { View } from 'react-native';
import type { Does } from '../data/act.ts';
import { local, type Refusal } from '../data/local/slice.ts';
import { useLocal } from '../data/todos.ts';
import { Action } from '../ui/Action.tsx';
import { Card } from '../ui/Card.tsx';
import { Words } from '../ui/Words.tsx';

/** What stood in the way of a finish that was entered later: it is settled where it was asked for. */
export const isSettledInPlace = ({ of }: Refusal): boolean =>
  of !== undefined && of.action.do === 'done' && of.code.startsWith('when.');

interface RefusedHereProps {
  todo: string;
  /** Of this time alone; of all of the to-do, where that is not said. */
  slot?: string;
  does: Does;
}

/** Says beside its row which later deed stands in the way, with what settles it. */
export function RefusedHere({ todo, slot, does }: RefusedHereProps) {
  const { refused } = useLocal();
  const dispatch = useDispatch();
  return refused.filter(isSettledInPlace).map((refusal) => {
    const { action, code, where } = refusal.of!;
    if (action.do !== 'done' || action.todo !== todo) return null;
    if (slot !== undefined && action.slot !== slot) return null;
    const { title } = refusal;
    const isMoved = code === 'when.moved';
    const settled = () => dispatch(local.actions.readRefusal(action.id));
    const again = () => {
      const { id: _id, at: _at, ...draft } = action;
      // What was moved gives way by itself; what ended it is taken back first.
      const isFree = isMoved || does({ do: 'undo', of: where }, () => 'As it was before') !== null;
      const done = isFree && does({ ...draft, ...(isMoved ? { letsGo: true } : {}) }, () => 'Done');
      if (done) settled();
    };
    return (
      <View key={action.id} style={{ paddingHorizontal: 20, paddingBottom: 8 }}>
        <Card label={`Not done yet: ${title}`} style={{ paddingVertical: 10, gap: 8 }}>
          <Words size={15} weight={600} live>
            {refusal.words}
          </Words>
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
            <Action
              label={isMoved ? 'Done then, let that go' : 'Take that back, done then'}
              name={`Done then, all the same: ${title}`}
              filled
              onPress={again}
            />
            <Action
              label="Leave it as it is"
              name={`Leave it as it is: ${title}`}
              onPress={settled}
            />
          </View>
        </Card>
      </View>
    );
  });
}
