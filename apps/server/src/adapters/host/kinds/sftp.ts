/** An account over SFTP, whose server shows the key that somebody agreed to. */
import { DomainError } from '@fastigium/contracts/errors';
import type { SftpRequest } from '@fastigium/contracts/hosts/sftp';
import { host } from '@fastigium/contracts/messages/address';
import { z } from 'zod';
import { probeSftp, createSftpHost, askServerKey, type SftpAccount } from '../sftpHost.ts';
import type { HostAccount, HostKind } from './kind.ts';

const settings = z.object({
  server: z.string().default(''),
  port: z.number().default(22),
  user: z.string().default(''),
  folder: z.string().default(''),
  url: z.string().optional(),
  log: z.string().optional(),
});
const secret = z.object({ password: z.string().optional(), key: z.string().optional() });
type Account = HostAccount<z.infer<typeof settings>, z.infer<typeof secret>>;

export const sftp: HostKind<SftpRequest, Account['settings'], Account['secret']> = {
  settings,
  secret,
  async probe({ kind: _, password, key, fingerprint, ...asked }, { gate }) {
    const shown = await askServerKey(asked, gate);
    // Nothing is said to a server whose key nobody has agreed to.
    if (fingerprint !== shown)
      throw new DomainError('host-key-changed', { seen: shown, pinned: fingerprint ?? 'none yet' });
    const account: Account = { settings: asked, secret: { password, key }, pinnedKey: shown };
    await probeSftp(signIn(account), gate);
    return account;
  },
  open: (account, { gate }) =>
    Promise.resolve(createSftpHost(signIn(account), gate, account.settings.url ?? '', account.settings.log)),
  message: ({ user, server, folder }) => host('sftp', { user, server, folder }),
};

function signIn({
  settings: { server, port, user, folder },
  secret: { password, key },
  pinnedKey,
}: Account): SftpAccount {
  return {
    server,
    port,
    user,
    folder,
    pinned: pinnedKey,
    ...(password === undefined ? {} : { password }),
    ...(key === undefined ? {} : { key }),
  };
}
