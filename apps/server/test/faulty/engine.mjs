import { engineService } from '../../dist/engine/engineService.js';
import { serve } from '../../dist/threads/serve.js';
import { faulty } from './service.mjs';

serve(faulty('engine', engineService()));
