import { engineService } from '../../dist/engine/engineService.js';
import { serve } from '../../dist/threads/serve.js';
import { weighed } from './service.mjs';

serve(weighed(engineService()));
