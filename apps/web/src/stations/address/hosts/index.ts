/** Kinds of hosts one can have an account at: what each is called, and the form that connects it. */
import type { HostKindName } from '@fastigium/contracts/hosts/request';
import type { Component } from 'vue';
import { say } from '../words.ts';
import FolderForm from './FolderForm.vue';
import SftpForm from './SftpForm.vue';

export type OwnHostKind = Exclude<HostKindName, 'stand-in'>;

interface HostForm {
  /** Among the others. */
  readonly label: () => string;
  /** As the place where the site is published. */
  readonly title: () => string;
  readonly form: Component;
}

export const HOST_FORMS: Readonly<Record<OwnHostKind, HostForm>> = {
  folder: { label: () => say('hostBench.aFolder'), title: () => say('hostBench.aFolder'), form: FolderForm },
  sftp: { label: () => say('hostBench.sftp'), title: () => say('hostBench.aServerOverSftp'), form: SftpForm },
};

export const OWN_HOST_KINDS = Object.keys(HOST_FORMS) as readonly OwnHostKind[];
