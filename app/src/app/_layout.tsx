import { createTheme, ThemeProvider } from '@rneui/themed/dist/config';
import { Slot } from 'expo-router';
import { InRoom } from '../data/room.tsx';

// Made once: without a theme of its own the provider makes a new one at each render.
const theme = createTheme({});

export default function Root() {
  return (
    <InRoom>
      <ThemeProvider theme={theme}>
        <Slot />
      </ThemeProvider>
    </InRoom>
  );
}
