// Settings of renders that are kept under names: asked only where renders are set up.
import { KeptSettings } from '@mellow/contract';
import { api } from './api.ts';
import { ask, type Answered } from './requests.ts';

/** Where a browser kept them by itself, before the server did. */
const IN_BROWSER = 'mellow:render-settings';
type Store = Pick<Storage, 'getItem' | 'removeItem'>;
function keptInBrowser(storage: Store): KeptSettings[] {
  try {
    return KeptSettings.array().parse(JSON.parse(storage.getItem(IN_BROWSER) ?? '[]'));
  } catch {
    return [];
  }
}
/** All that are kept, with those that the browser still has, which move to the server unless their name is taken. */
export async function keptSettings(
  storage: Store = localStorage,
  send: typeof fetch = fetch,
): Promise<Answered<KeptSettings[]>> {
  let kept = await ask('listKeptSettings', {}, send);
  for (const own of keptInBrowser(storage)) {
    if (kept.error) return kept;
    if (!kept.data.some((k) => k.name === own.name)) kept = await ask('keepSettings', { body: own }, send);
  }
  if (!kept.error) storage.removeItem(IN_BROWSER);
  return kept;
}

const keptApi = api.injectEndpoints({
  endpoints: (build) => ({
    keptSettings: build.query<KeptSettings[], void>({ queryFn: () => keptSettings(), providesTags: ['Kept'] }),
    keepSettings: build.mutation<KeptSettings[], KeptSettings>({
      query: (body) => ({ route: 'keepSettings', body }),
      invalidatesTags: ['Kept'],
    }),
    dropSettings: build.mutation<KeptSettings[], string>({
      query: (name) => ({ route: 'dropSettings', body: { name } }),
      invalidatesTags: ['Kept'],
    }),
  }),
});
export const { useKeptSettingsQuery, useKeepSettingsMutation, useDropSettingsMutation } = keptApi;
