import type { DeviceView } from '@back-again/contract/devices';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { errorOf } from '../../data/api.ts';
import { beTold, beToldNoMore, canBeTold, thisDevice } from '../../data/closed.ts';
import { usePerson, useShown } from '../../data/todos.ts';
import { Action } from '../../ui/Action.tsx';
import { Field } from '../../ui/Field.tsx';
import { Rule } from '../../ui/Rule.tsx';
import { Words } from '../../ui/Words.tsx';
import { instantText } from '../../ui/dates.ts';
import { rem } from '../../ui/rem.ts';
import { useDevicesQuery, useWithdrawDeviceMutation } from './devicesApi.ts';

/** As the contract has it, which is not loaded for this alone. */
const MOST_NAME = 60;
const isPhone = () => globalThis.matchMedia?.('(pointer: coarse)').matches ?? false;

/** Devices that are told while Back Again is closed: this one can be made one, each can be withdrawn. */
export function Devices() {
  const { data: view, refetch } = useDevicesQuery();
  const [mine, setMine] = useState<string | null>(null);
  const devices = view?.devices;
  useEffect(() => {
    void thisDevice().then(setMine);
  }, [devices]);
  if (!view || !devices || (view.key === null && !devices.length)) return null;
  const isThere = devices.some(({ sum }) => sum === mine);
  return (
    <View style={{ gap: 6, alignSelf: 'stretch' }}>
      <Words size={15} weight={600}>
        While Back Again is closed
      </Words>
      {devices.length ? null : (
        <Words size={14.5} tint="soft">
          Nothing reminds you then yet.
        </Words>
      )}
      <View role="list">
        {devices.map((device, i) => (
          <View key={device.id} role="listitem">
            {i ? <Rule /> : null}
            <Device device={device} isThis={device.sum === mine} />
          </View>
        ))}
      </View>
      {view.key === null || isThere ? null : (
        <ThisDevice serverKey={view.key} onTold={() => void refetch()} />
      )}
    </View>
  );
}

function Device({ device, isThis }: { device: DeviceView; isThis: boolean }) {
  const person = usePerson();
  const { today } = useShown();
  const [withdraw] = useWithdrawDeviceMutation();
  const { id, name, createdAt, usedAt } = device;
  const at = (instant: string) =>
    person ? instantText(instant, today, person.settings) : instant.slice(0, 10);
  const about = [
    isThis ? 'this device' : '',
    `since ${at(createdAt)}`,
    usedAt ? `last ${at(usedAt)}` : 'nothing so far',
  ];
  const end = async () => {
    if (isThis) await beToldNoMore().catch(() => undefined);
    await withdraw(id);
  };
  return (
    <View style={{ flexDirection: 'row', alignItems: 'center', gap: 12, paddingVertical: 6 }}>
      <View style={{ flex: 1, minWidth: 0 }}>
        <Words weight={600}>{name}</Words>
        <Words size={14} tint="soft">
          {about.filter(Boolean).join(' · ')}
        </Words>
      </View>
      <Action label="Withdraw" name={`Withdraw: ${name}`} onPress={() => void end()} />
    </View>
  );
}

/** Makes this one a device that is told. */
function ThisDevice({ serverKey, onTold }: { serverKey: string; onTold: () => void }) {
  const [name, setName] = useState(() => (isPhone() ? 'My phone' : 'My computer'));
  const [wrong, setWrong] = useState('');
  const [isBusy, setBusy] = useState(false);
  if (!canBeTold())
    return (
      <Words size={14.5} tint="soft">
        This browser cannot remind you then.
      </Words>
    );
  const tell = async () => {
    setBusy(true);
    try {
      const answered = await beTold(name.trim(), serverKey);
      setWrong('error' in answered ? errorOf(answered.error).message : '');
      if ('data' in answered) onTold();
    } catch {
      setWrong('This browser let nobody in, or what passes messages on to it did not answer.');
    }
    setBusy(false);
  };
  return (
    <View style={{ gap: 8, alignItems: 'flex-start' }}>
      <View style={{ width: rem(260), maxWidth: '100%' }}>
        <Field
          label="Name of this device"
          hint="So that you know it again in this list."
          value={name}
          maxLength={MOST_NAME}
          error={wrong || undefined}
          onChangeText={setName}
        />
      </View>
      <Action
        label="Remind me on this device"
        disabled={isBusy || !name.trim() || name.trim().length > MOST_NAME}
        onPress={() => void tell()}
      />
    </View>
  );
}
