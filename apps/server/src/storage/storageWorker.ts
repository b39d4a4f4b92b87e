import { serve } from '../threads/serve.ts';
import { storageService } from './storageService.ts';

serve(storageService());
