import { build, install, say } from './steps.mjs';

install();
build();
say('Ready: npm start');
