import '@fontsource/ibm-plex-sans-condensed/latin-400.css';
import '@fontsource/ibm-plex-sans-condensed/latin-500.css';
import '@fontsource/ibm-plex-sans-condensed/latin-600.css';
import '@fontsource/source-serif-4/latin-400-italic.css';
import '@fontsource/source-serif-4/latin-600-italic.css';
import { CssBaseline } from '@mui/material';
import { ThemeProvider } from '@mui/material/styles';
import { QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, Navigate, RouterProvider } from 'react-router';
import { queries } from './api/queries';
import { Notice } from './shell/Notice';
import { PageProblem } from './shell/PageProblem';
import { SoundFrame } from './shell/SoundFrame';
import { SoundingPage } from './report/SoundingPage';
import { STATIONS } from './stations';
import { Library } from './library/Library';
import { theme } from './theme/theme';
import { tell, useView } from './state/view-store';
import { isToChoose, sendInBackground, useUnsaved } from './unsaved/unsaved-work';

const router = createBrowserRouter([
  { path: '/', element: <Library />, errorElement: <PageProblem /> },
  {
    path: '/sounds/:id',
    element: <SoundFrame />,
    errorElement: <PageProblem />,
    children: [
      { index: true, element: <Navigate to="layers" replace /> },
      ...STATIONS.map(({ path, Station }) => ({ path, element: <Station /> })),
    ],
  },
  { path: '/soundings/:owner', element: <SoundingPage />, errorElement: <PageProblem /> },
  { path: '*', element: <PageProblem /> },
]);

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <ThemeProvider theme={theme} defaultMode="light">
      <CssBaseline />
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
        <Notice />
      </QueryClientProvider>
    </ThemeProvider>
  </StrictMode>,
);

void sendInBackground().then(() => {
  const { works, broken } = useUnsaved.getState();
  const elsewhere = router.state.location.pathname !== '/';
  // What is said of the sound that is open goes before.
  const said = useView.getState().notice !== null;
  if (elsewhere && !said && (works.some(isToChoose) || broken.length > 0))
    tell('There is unsaved work in this browser that waits for a choice of yours.', {
      label: 'See it',
      run: () => {
        void router.navigate('/');
      },
    });
});
