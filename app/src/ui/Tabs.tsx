import Tab from '@rneui/themed/dist/Tab';
import { FONT, THUMB, useLook } from './look.ts';
import { rem } from './rem.ts';

interface TabsProps<T extends string> {
  label: string;
  options: readonly { value: T; label: string }[];
  value: T;
  onChange: (value: T) => void;
}

/** Ways to look at the same things, of which one is shown. */
export function Tabs<T extends string>({ label, options, value, onChange }: TabsProps<T>) {
  const look = useLook();
  const at = options.findIndex((option) => option.value === value);
  return (
    <Tab
      value={at}
      onChange={(next: number) => onChange(options[next]!.value)}
      variant="default"
      dense
      disableIndicator
      style={{ columnGap: 20, flexWrap: 'wrap', flexShrink: 1, maxWidth: '100%' }}
      {...({ role: 'tablist', 'aria-label': label } as object)}
    >
      {options.map((option, i) => (
        <Tab.Item
          key={option.value}
          title={option.label}
          containerStyle={{ flex: 0, flexBasis: 'auto', flexShrink: 0, overflow: 'visible' }}
          buttonStyle={{
            minHeight: THUMB,
            paddingHorizontal: 0,
            paddingVertical: 0,
            borderBottomWidth: i === at ? 3 : 0,
            borderBottomColor: look.ink,
            borderRadius: 0,
          }}
          titleStyle={{
            fontFamily: FONT,
            fontSize: rem(15),
            fontWeight: (i === at ? '700' : '500') as never,
            color: i === at ? look.ink : look.soft,
            paddingHorizontal: 0,
          }}
          {...({ 'aria-selected': i === at, role: 'tab' } as object)}
        />
      ))}
    </Tab>
  );
}
