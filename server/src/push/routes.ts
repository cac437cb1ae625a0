import { Router } from 'express';
import { deviceSchema, type DevicesView } from '@back-again/contract/devices';
import { sessionName } from '../account/sessions.ts';
import { actorOf, personOf, type Context } from '../http/context.ts';
import { HttpError, checked } from '../http/errors.ts';
import { addDevice, devicesOf, withdrawDevice } from './devices.ts';
import { pushKeys } from './keys.ts';

/** Devices that are told of reminders with no window open. */
export function deviceRoutes(context: Context): Router {
  const { db, config } = context;
  const router = Router();
  const view = async (userId: string): Promise<DevicesView> => ({
    key: config.push ? (await pushKeys(db)).publicKey : null,
    devices: await devicesOf(db, userId),
  });

  router.get('/devices', async (_request, response) => {
    response.json(await view(personOf(response).id));
  });
  router.post('/devices', async (request, response) => {
    if (!config.push)
      throw new HttpError(409, 'device.off', 'This installation does not reach closed windows.');
    const { userId, now } = actorOf(context, response);
    const body = checked(deviceSchema, request.body);
    const session = sessionName(request.sessionID);
    await addDevice(db, { userId, session }, body, now, config.push.anywhere);
    response.json(await view(userId));
  });
  router.delete('/devices/:id', async (request, response) => {
    await withdrawDevice(db, personOf(response).id, request.params.id);
    response.status(204).end();
  });
  return router;
}
