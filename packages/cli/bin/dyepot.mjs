#!/usr/bin/env node
import '../../../dist/dyepot.mjs';
