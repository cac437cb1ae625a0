import type { DevicesView } from '@back-again/contract/devices';
import { api } from '../../data/api.ts';

const withDevices = api.enhanceEndpoints({ addTagTypes: ['Devices'] });

/** The devices that are told while no window is open. */
const devices = withDevices.injectEndpoints({
  endpoints: (build) => ({
    devices: build.query<DevicesView, void>({ query: () => '/devices', providesTags: ['Devices'] }),
    withdrawDevice: build.mutation<void, string>({
      query: (id) => ({ url: `/devices/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Devices'],
    }),
  }),
});

export const { useDevicesQuery, useWithdrawDeviceMutation } = devices;
