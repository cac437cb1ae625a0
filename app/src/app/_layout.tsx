import { createTheme, ThemeProvider } from '@rneui/themed/dist/config';
import { Slot } from 'expo-router';
import { useState } from 'react';
import { Provider } from 'react-redux';
import { makeStore } from '../data/store.ts';

// Made once: without a theme of its own the provider makes a new one at each render.
const theme = createTheme({});

export default function Root() {
  const [store] = useState(makeStore);
  return (
    <Provider store={store}>
      <ThemeProvider theme={theme}>
        <Slot />
      </ThemeProvider>
    </Provider>
  );
}
