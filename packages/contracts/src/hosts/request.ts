/** Every kind of host an account can be connected at. */
import { z } from 'zod';
import { folderRequest } from './folder.ts';
import { sftpRequest } from './sftp.ts';
import { standInRequest } from './standIn.ts';

export const hostRequest = z.discriminatedUnion('kind', [standInRequest, folderRequest, sftpRequest]);
export type HostRequest = z.infer<typeof hostRequest>;
export type HostKindName = HostRequest['kind'];

export const HOST_KINDS = hostRequest.options.map(({ shape }) => shape.kind.value);
