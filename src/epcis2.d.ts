declare module 'epcis2.js';
