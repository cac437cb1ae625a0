import { configureStore } from '@reduxjs/toolkit';
import { setupListeners } from '@reduxjs/toolkit/query';
import { api } from './api.ts';
import { waiting } from './waiting.ts';

/** A store of its own for each start of the app, and for each test. */
export function makeStore() {
  const store = configureStore({
    reducer: { [api.reducerPath]: api.reducer, [waiting.name]: waiting.reducer },
    middleware: (defaults) => defaults().concat(api.middleware),
  });
  setupListeners(store.dispatch);
  return store;
}

type Store = ReturnType<typeof makeStore>;
export type AppState = ReturnType<Store['getState']>;
export type AppDispatch = Store['dispatch'];
