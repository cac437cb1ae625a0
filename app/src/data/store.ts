import { configureStore } from '@reduxjs/toolkit';
import { setupListeners } from '@reduxjs/toolkit/query';
import { api } from './api.ts';
import { local } from './local/slice.ts';

/** A store of its own for each start of the app, and for each test. */
export function makeStore() {
  const store = configureStore({
    reducer: { [api.reducerPath]: api.reducer, [local.name]: local.reducer },
    middleware: (defaults) =>
      // To-dos are many, and are checked where they come from.
      defaults({ immutableCheck: false, serializableCheck: false }).concat(api.middleware),
  });
  setupListeners(store.dispatch);
  return store;
}

type Store = ReturnType<typeof makeStore>;
export type AppStore = Store;
export type AppState = ReturnType<Store['getState']>;
export type AppDispatch = Store['dispatch'];
