import { useState } from 'react';
import type { LayoutChangeEvent } from 'react-native';

/** How wide a picture may be that takes all the room there is, and what hears of that; on a phone at first. */
export function useWidth() {
  const [width, setWidth] = useState(350);
  const onLayout = ({ nativeEvent }: LayoutChangeEvent) =>
    setWidth(Math.max(200, nativeEvent.layout.width));
  return { width, onLayout };
}
