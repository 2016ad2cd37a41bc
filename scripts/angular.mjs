// Runs a target of angular.json: node scripts/angular.mjs web:build [OPTIONS AS JSON]. What Angular's own command does here, without the rest of it.
import { Architect } from '@angular-devkit/architect';
import { WorkspaceNodeModulesArchitectHost } from '@angular-devkit/architect/node/index.js';
import { schema, workspaces } from '@angular-devkit/core';
import { NodeJsSyncHost, createConsoleLogger } from '@angular-devkit/core/node/index.js';
import { root } from './steps.mjs';

const [target = 'web:build', options = '{}'] = process.argv.slice(2);
const registry = new schema.CoreSchemaRegistry();
registry.addPostTransform(schema.transforms.addUndefinedDefaults);
const { workspace } = await workspaces.readWorkspace(root, workspaces.createWorkspaceHost(new NodeJsSyncHost()));
const architect = new Architect(new WorkspaceNodeModulesArchitectHost(workspace, root), registry);
const logger = createConsoleLogger();
const [project, name] = target.split(':');
const run = await architect.scheduleTarget({ project, target: name }, JSON.parse(options), { logger });
const { success } = await run.lastOutput;
await run.stop();
process.exit(success ? 0 : 1);
