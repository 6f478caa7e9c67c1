import '@fontsource-variable/figtree';
import '@fontsource-variable/jetbrains-mono';
import './app/app.css';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { App } from './app/App.tsx';
import { startSaving } from './editing/editing.ts';
import { store } from './app/store.ts';

// what a closed page left unsent goes out first
startSaving();
createRoot(document.getElementById('root')!).render(
  <Provider store={store}>
    <App />
  </Provider>,
);
