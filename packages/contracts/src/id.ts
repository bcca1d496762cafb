/** What things are known by. */
import { z } from 'zod';

export const id = z.uuid();
