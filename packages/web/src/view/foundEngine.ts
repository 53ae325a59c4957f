import { findIn, maskFields, provideFields, provideFound } from '@dyepot/core';

provideFound(findIn);
provideFields(maskFields);
