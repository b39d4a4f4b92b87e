import { storageService } from '../../dist/storage/storageService.js';
import { serve } from '../../dist/threads/serve.js';
import { weighed } from './service.mjs';

serve(weighed(storageService()));
