/** Debian packages and npm packages: what is missing is installed, what is there is left alone. */
import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { say, Stop } from './say.mjs';

const isRoot = process.getuid?.() === 0;

function isInstalled(name) {
  const { stdout } = spawnSync('dpkg-query', ['-W', '-f=${Status}', name], { encoding: 'utf8' });
  return stdout?.includes('install ok installed') ?? false;
}

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major !== 20 || minor < 19) {
    throw new Stop(
      `This is Node.js ${process.versions.node}; Fastigium needs Node.js 20, at least 20.19. Install it and run the command again.`,
    );
  }
}

/** Installs Debian packages that are missing, by apt-get, as root or through sudo. */
export function needDebianPackages(names) {
  const missing = names.filter((name) => !isInstalled(name));
  if (missing.length === 0) return;
  const by = `apt-get install ${missing.join(' ')}`;
  if (!existsSync('/usr/bin/apt-get')) {
    throw new Stop(
      `Missing: ${missing.join(', ')}. This is not Debian, so install them your system's way, then run the command again.`,
    );
  }
  const prefix = isRoot ? [] : ['sudo', '-n'];
  if (!isRoot && spawnSync('sudo', ['-n', 'true']).status !== 0) {
    throw new Stop(`Missing: ${missing.join(', ')}. Install them with  sudo ${by}  and run the command again.`);
  }
  say(`Installing Debian packages: ${missing.join(', ')}`);
  if (missing.includes('postgresql')) dontMakeClusters(prefix);
  const apt = (...args) => {
    const command = [...prefix, 'env', 'DEBIAN_FRONTEND=noninteractive', 'apt-get', ...args];
    const done = spawnSync(command[0], command.slice(1), { encoding: 'utf8', maxBuffer: 1 << 26 });
    if (done.status !== 0) {
      throw new Stop(
        `${command.join(' ')} failed:\n${(done.stderr || done.stdout || String(done.error)).trim().split('\n').slice(-8).join('\n')}\nPut this right, then run the command again.`,
      );
    }
  };
  apt('update', '-q');
  const policy = holdServices(prefix);
  try {
    apt('install', '-q', '-y', '--no-install-recommends', ...missing);
  } finally {
    policy.release();
  }
}

/** Debian starts servers as it installs them; ours are started by whoever uses them, on ports of their own. */
function holdServices(prefix) {
  const file = '/usr/sbin/policy-rc.d';
  if (existsSync(file)) return { release() {} };
  const run = (script) => {
    const command = [...prefix, 'sh', '-c', script];
    execFileSync(command[0], command.slice(1));
  };
  run(`printf '#!/bin/sh\nexit 101\n' > ${file} && chmod 755 ${file}`);
  return { release: () => run(`rm -f ${file}`) };
}

/** Debian would make and start a cluster of its own; ours is local to the project. */
function dontMakeClusters(prefix) {
  const file = '/etc/postgresql-common/createcluster.d/fastigium.conf';
  const shell = `mkdir -p /etc/postgresql-common/createcluster.d && echo 'create_main_cluster = false' > ${file}`;
  const command = [...prefix, 'sh', '-c', shell];
  execFileSync(command[0], command.slice(1));
}

/** `npm ci` when the lock file is not the one the modules were installed from. */
export function needNpmPackages(root, how = 'said') {
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const mark = join(root, 'node_modules', '.fastigium-lock');
  if (existsSync(mark) && readFileSync(mark, 'utf8') === lock) return;
  if (how === 'said') say('Installing npm packages');
  const done = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    encoding: 'utf8',
    maxBuffer: 1 << 26,
  });
  if (done.status !== 0) {
    throw new Stop(
      `npm ci failed:\n${(done.stderr || String(done.error)).trim().split('\n').slice(-8).join('\n')}\nCheck the network, then run the command again.`,
    );
  }
  mkdirSync(join(root, 'node_modules'), { recursive: true });
  writeFileSync(mark, lock);
}
