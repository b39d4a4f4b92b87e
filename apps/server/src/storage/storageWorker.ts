import { serve } from '../threads/serve.ts';
import { StorageService } from './storageService.ts';

serve(new StorageService());
