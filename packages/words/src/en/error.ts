/** Each says what happened, then what to do next. */
import type { error } from '@fastigium/contracts/errors';
import type { CatalogueOf } from '../catalogue.ts';

export const errorWords: CatalogueOf<typeof error> = {
  'sign-in-required': 'You are not signed in, or the session has ended. Sign in and try again; nothing was changed.',
  'sign-in-wrong': 'This name and password do not belong together. Check both and try again.',
  'sign-in-throttled': 'Too many attempts. Wait {seconds, plural, one {# second} other {# seconds}}, then try again.',
  'second-wrong':
    'This is not the second factor. Use the newest code of your app, a recovery code that was not used yet, or your passkey.',
  'second-ended': 'Too much time or too many tries have gone by since the password. Sign in with it again.',
  'password-wrong': 'This is not your password. Nothing was changed; try again.',
  'password-known':
    'This password is easily guessed: {reason}. Choose another; a few words that have nothing to do with each other are good.',
  'reset-ended':
    'This link has been used or has run out. Ask an owner of the team, or on the sign-in page, for a new one.',
  'factor-unproved':
    'This code does not come from that secret, or the clock of the device is wrong. Set its clock by itself, then try the next code.',
  'passkey-wrong': 'The passkey was not taken: {reason}. Try again.',
  'mail-not-set': 'This Fastigium sends no mail. Ask an owner of the team for a link to set a new password.',
  'mail-failed': 'The mail could not be sent: {reason}. Try again later, or ask an owner of the team for a link.',
  'owner-exists': 'This Fastigium already has an owner. Sign in, or ask the owner for an account.',
  'invitation-ended': 'This invitation has been used, taken back or has run out. Ask whoever sent it for a new one.',
  'email-taken': 'Somebody with the address {email} has an account already. Sign in, or use another address.',
  'last-owner': 'A team needs an owner. Make somebody else an owner first.',
  'not-allowed': 'Your role ({role}) does not allow this. Ask an owner of the team.',
  'host-unknown':
    'This Fastigium does not answer under the name {host}. Open it by its own address; whoever runs it can add a name (FASTIGIUM_ALSO_ANSWERS).',
  'request-forged': 'The request did not come from this page. Reload the page and try again; nothing was changed.',
  'input-invalid': 'This was not taken: {detail}. Correct it and try again.',
  'not-found':
    'There is no {what, select, site {such site} pattern {such pattern} file {such file} address {such address} secondFactor {such second factor} person {such person} pageOfDraft {such page in today’s draft} change {such change} touch {such touch} time {such time} textOfRelease {such text of a release} snag {such snag} session {such session} sectionOfRelease {such section in this release} sectionOfPage {such section in this page} planOrRegion {such plan or region} place {such place in the tree} picture {such picture} password {such password} name {such name} listing {such listing} link {such link} job {such job} menuItem {such item in this menu} invitation {such invitation} groupOrLink {such group or outside link} endpoint {such endpoint} domain {such domain} country {such country} orderOfPatterns {such an order of patterns} account {such account} placeInSource {place in the source for it} other {such page}} here. It may have been removed; go back and look at the list again.',
  'draft-stale':
    'Someone changed this site while you were working. What they did is shown now; look, then do yours again.',
  'title-empty': 'A page needs a title. Write one, or keep the one it has.',
  'address-taken': '{address} belongs to “{title}” already. Choose another address, or move that page first.',
  'address-is-home': '“/” belongs to the home page. To have this page there, use it as home page.',
  'home-keeps-address':
    'The home page answers at “/”. Choose another home page first; then this one can get an address of its own.',
  'home-not-ready':
    'This page is marked as not ready, so it is not published and cannot be the home page. Mark it as ready first.',
  'home-needed': 'This is the home page, and visitors need one. Choose another home page first.',
  'report-not-printed':
    'There is no Chromium here to print with, or it did not answer. Keep the report as an HTML file instead.',
  'same-changed':
    '{person} changed the same thing meanwhile: {decision}. What you typed is kept; look at theirs, then set yours again.',
  'live-moved':
    'Another release went live meanwhile: number {number}. What differs from it is shown now; look, then publish.',
  'nothing-drifted':
    'The live host gives what the release says, as far as it was asked. There is nothing to put right.',
  'entry-same': 'This is said already. Nothing was changed.',
  'entry-of-home': 'Below the home page lies the whole site. Say it for the whole site instead.',
  'last-day-past': '{day} is over already, by the clock here. Choose a later day, or say that nobody may visit.',
  'style-same': 'Addresses are written this way already.',
  'move-into-itself': 'A page cannot stand below itself. Choose another place.',
  'already-removed': 'This is removed already. It is listed under Pages, “Removed”, and can be put back there.',
  'last-page': 'This would remove every page, and visitors need one. Leave a page standing, or bring in another site.',
  'removal-needs-home': 'The home page is among what would go. Choose the page that takes over first.',
  'stand-in-missing': 'The page its address should lead to is not in the draft, or goes as well. Choose another one.',
  'not-removed':
    'This is not removed any more: somebody put it back, or took the removal back. Look at the list again.',
  'removal-swept':
    'This was removed for good and cannot be put back here. A kept release may still have it: look under “In releases”.',
  'removed-with-page': 'The page this section stands in is removed itself. Put the page back first.',
  'put-back-taken':
    '{address} belongs to “{title}” by now, and nothing is written over. Keep both, with a new address, or let them change places.',
  'put-back-over-file':
    'A file stands at {address} by now, and a file keeps its address. Put the page back under another one.',
  'removal-held': '“{label}” is held by {person}: {reason}. Nothing was removed. Ask them, or let it go first.',
  'confirmation-differs': 'To remove this for good, type {wanted}. Nothing was removed.',
  'not-in-release': 'Release {number} has nothing at {address}. Choose something from its list.',
  'same-as-release': 'Today’s draft has this exactly as release {number} had it. There is nothing to take.',
  'not-held': 'None of these is held any more. Look at the list again.',
  'menu-unknown': 'This menu is not in the pages of the import any more. Look at the menus again.',
  'menu-page-gone':
    '“{label}” leads to a page that is not in the draft any more. Choose another page for it, or leave it out.',
  'touch-place-lost':
    'This place is not in the page any more, or is there more than once. Look at the page again and point at it.',
  'file-not-there': 'There is no file at {address} in this site. Choose one from the list, or add it first.',
  'asset-name':
    '“{name}” cannot be the name of an added file. Pages are added in the tree; other files need a plain name.',
  'page-not-made':
    'This page has no main content that could be told from its header and foot. Take another page as pattern.',
  'address-unreadable':
    '“{address}” is not an address. Write it like /old-page.html, with its question mark where it has one.',
  'day-over': 'The {day} is over already. Choose a day to come, or leave it out.',
  'old-domain-unknown':
    '{host} is not known as an old domain of this site. Add it under “Bring in old addresses”, or leave it out.',
  'nothing-live': 'Nothing is live yet that could be asked. Publish first, then prove it.',
  'no-access-log':
    'This site’s host gives no access log. Bring a log file in under Redirects, “Bring in old addresses”.',
  'log-unreadable': 'The host’s access log cannot be read: {why}. Have it written in the common or combined format.',
  'hook-there': '{url} is told already. Remove it first, or choose another address.',
  'time-is-past': 'This time is past already. Set a later one, or publish now.',
  'not-inspected':
    'Release {number} has not been asked for from outside yet, so there is no report of it. Wait for it, or ask now under Publish.',
  'rules-unreadable': '{name} could not be read as redirects: {why}. Choose another form, or another file.',
  'nothing-to-flatten': 'None of these takes more than one step any more. Read the list again.',
  'redirect-onto-itself': '{address} would land on itself. Choose another page for it to land on.',
  'redirect-hidden':
    '{address} is a live page of this site, and a live page always answers itself. Choose an old address that is no page any more.',
  'redirect-loop': 'This would send visitors round in a circle: {hops}. Choose another page for it to land on.',
  'redirect-target-user':
    'A redirect carries no name or password: whoever follows it to {host} would read them. Leave out what stands before the @.',
  'redirect-target-missing': 'The page it should land on is not in the draft any more. Choose another one.',
  'no-menu-here':
    'No list of links stands around this place. Point at one of several links side by side, or in boxes alike.',
  'menu-changed': 'This menu was changed here, and its changes would be lost. Let it be as it was imported first.',
  'no-listing':
    'Only a page that lists dated pages has a newest entry. Let it list them first, or choose the page itself.',
  'redirect-unknown': 'There is no redirect for {address}.',
  'already-home': 'This page is the home page already.',
  'nothing-to-undo': 'This step was taken back already, or is not there. Look at the history.',
  'upload-too-large':
    'The upload is larger than {limit}. Leave out what the site does not need, or bring it in as a smaller zip.',
  'upload-slow':
    'The upload stood still or took too long, and was ended. Nothing was kept. Check the line, then send it again.',
  'upload-no-room':
    'There is no room left here to take this in. Nothing was kept. Whoever runs this Fastigium has to make room; then send it again.',
  'upload-gone':
    'The file that was sent did not outlast a restart of Fastigium. Nothing of it was kept; bring it in again.',
  'upload-broken': 'The upload broke off. Nothing was kept; send it again.',
  'uploads-many':
    'You are sending {count, number} files already. Wait until one has arrived, then send this one again.',
  'upload-empty': 'Nothing arrived. Choose an archive or a folder that holds the finished site.',
  'archive-unreadable':
    'This is not an archive that can be read ({detail}). Pack the site’s folder again as .zip, .tar or .tar.gz, and drop the new one.',
  'archive-expands':
    'The archive unpacks to far more than a web site ({detail}). Nothing was brought in. Check what is in it.',
  'archive-empty': 'There is no file in it that could be published. Pack the folder that holds the site’s index.html.',
  'crawl-address': '“{address}” is not the address of a web site. Write it like https://www.old-site.example/.',
  'crawl-private':
    '{host} leads into a private network ({detail}), where crawls may not go. Whoever runs this Fastigium can allow a network in its configuration (FASTIGIUM_OPEN_NETWORKS).',
  'network-private':
    '{host} leads into a private network ({detail}), and nothing there may be connected to. Whoever runs this Fastigium can open a network in its configuration (FASTIGIUM_OPEN_NETWORKS).',
  'name-nowhere': 'No address is known for {host}. Check how it is written, then try again.',
  'crawl-unreachable': '{address} cannot be read: {detail}. Open it in a browser to see what it does, then try again.',
  'crawl-elsewhere': '{address} sends visitors to {target}. If that is the site, bring it in by that address.',
  'crawl-shut':
    'The robots.txt of {host} keeps crawlers out (line {line}). Whoever runs that site can let this one in: “User-agent: Fastigium”, and “Allow: /” below it.',
  'crawl-robots-unreachable':
    'The robots.txt of {host} cannot be read ({detail}); until it can, nothing of the site may be asked for. Try again in a while.',
  'crawl-no-pages':
    'No page was found at {host}. Open it in a browser to see what it does; then bring it in by the address of a page.',
  'import-running': 'This site is being read already. Wait until it is done, or cancel it.',
  'no-review': 'There is no newer export waiting to be looked at. Bring it in again.',
  'nothing-imported': 'Nothing has been brought in for this site yet. Drop an archive or a folder first.',
  'snags-hold':
    '{count, number} must be fixed before a release. Fix them under Survey, or take them on your name there with a reason.',
  'snag-not-mendable': 'This cannot be mended in one step any more. Look at the page and mend it there.',
  'language-unreadable': '“{language}” is not a language tag. Write it like en, cy or pt-BR.',
  'metadata-unusable': 'This cannot be set as {what}: {why}.',
  'table-unreadable':
    'This is not a table that can be read: {detail}. Write it as CSV with the names of the columns in the first line, and try again; nothing was changed.',
  'icon-unusable': 'This picture cannot become the icon: {why}.',
  'nothing-to-settle': 'There is nothing to settle in this. Choose at least one old address.',
  'old-addresses-unreadable':
    '{name} cannot be read: {why}. Nothing was taken. Give an access log, a sitemap, a table with a column of addresses, or addresses in lines.',
  'log-counted': '{name} was counted before, byte for byte. Its visits are in already; nothing was added.',
  'columns-unmatched': 'Say which column holds the old addresses. Nothing was taken yet.',
  'pattern-unreadable': '{pattern} is no pattern: {why}. Nothing was changed.',
  'pattern-target': 'A pattern cannot lead to {target}: {why}. Nothing was changed.',
  'pattern-twice': 'There is a pattern {pattern} already. Change that one.',
  'gather-nothing': '{address} gave no old addresses: {why}. Nothing was changed.',
  'publish-running':
    '{person} is publishing release {number} right now. Watch it go, then look at what is left to publish.',
  'nothing-to-publish': 'Live and draft are the same. There is nothing to publish.',
  'release-not-kept': 'Release {number} is not kept. Choose another one from the list.',
  'release-is-live': 'Release {number} is live already.',
  'host-needed': 'This site has no host yet. Connect one under Address, Host; then do this again.',
  'site-address-unknown':
    'Nobody has said at which address visitors find this site. Say it under Address, Host; then ask again.',
  'host-unreachable':
    'The host does not answer ({detail}). The live site is as it was. Check that the host is up, then try again.',
  'host-refused': 'The host refused ({detail}). The live site is as it was. Try again, or check the host’s account.',
  'host-troubled':
    'The host has a fault of its own ({detail}). The live site is as it was. Try again in a while, or ask whoever runs the host.',
  'host-silent':
    'The host stopped answering while the release was switched on ({detail}). Visitors may have it already. Once the host answers, publish again: it is asked first what it has.',
  'database-away': 'Fastigium’s own database does not answer just now. Nothing was lost. Try again in a moment.',
  'database-slow':
    'This took Fastigium’s own database too long, and was left. Nothing was changed. Try again in a moment.',
  'database-full':
    'The disk under Fastigium’s own database is full, so this was not kept. Whoever runs this Fastigium has to make room; then try again.',
  'host-full':
    'The disk at the host is full ({detail}). The live site is as it was. Make room there or let earlier releases go, then publish again.',
  'host-lost-base':
    'What the host has of the release before cannot be used ({detail}). The live site is as it was. Publish again, and everything is sent anew.',
  'job-ended': 'This work has ended already.',
  'job-lost': 'The work stopped three times in the same place and was given up. Nothing of it was kept; try again.',
  'work-too-long':
    'A part of this work took longer than {minutes, plural, one {a minute} other {# minutes}} and was stopped. Nothing of it was kept. Leave out the largest pages and files, and try again.',
  cancelled: 'Cancelled by {person}. Nothing of it was kept.',
  'site-name-differs': 'To delete this site, type its name, {name}. Nothing was deleted.',
  'name-taken': 'There is a site called “{name}” already. Choose another name.',
  'name-unreadable': '“{name}” is not a domain name: {reason}. Write it like lanternmoor.example.',
  'name-elsewhere': '{name} leads to another site here already. Take it away there first.',
  'name-not-for-sale':
    '{name} cannot be registered here: {reason}. Choose one of the free names, or bring one you own.',
  'no-domain': 'This site has no domain of its own yet. Bring one you own, or find a free one.',
  'no-lookup-yet': 'Nobody has asked about this domain yet. Look again first.',
  'registrar-unreachable': 'The registrar does not answer ({detail}). Nothing was changed. Try again in a while.',
  'registrar-refused': 'The registrar refused: {detail}. Nothing was changed.',
  'zone-unreadable':
    'Line {line}: {fault}{more, plural, =0 {} one {; and one line more} other {; and # lines more}}. Nothing was taken over; correct the file and bring it in again.',
  'update-not-set-up':
    'No key for DNS updates is kept for this domain. Enter the name server, the key’s name and its secret, or change the records by hand.',
  'update-key-unreadable':
    'The secret is not base64, or the server is not an address with a port. Copy both again from the name server’s settings.',
  'update-refused': 'The name server refused the update ({detail}). The records are as they were.',
  'update-outdated': 'The records have changed since they were shown. Look at them again, then send.',
  'update-ends-mail':
    'This would end the mail of {zone}. Give the mail server a name of its own first; the records are as they were.',
  'certificate-not-ready': 'A certificate cannot be had yet: {reason}.',
  'certificate-refused': 'The certificate authority refused: {detail}. It is tried again by itself.',
  'hsts-too-early': 'HSTS binds browsers to https for months. Have a valid certificate served first, then offer it.',
  'temporary-name-taken': '“{label}” is taken at this host. Free near it: {free}.',
  'host-offers-no-names':
    'This host serves its own names; set them up there. What Fastigium does for names and certificates it does at the host it came with.',
  'host-key-changed':
    'The server shows another key ({seen}) than the one pinned ({pinned}). It may be another machine. Nothing was sent. Ask whoever runs it; if the change is meant, connect it anew.',
  'host-login-refused': 'The server does not let {user} in with this password or key. Check both; nothing was kept.',
  'host-place-shut':
    '{path} is not open here. Whoever runs this Fastigium says what of its machine may be used ({setting}; now: {open}). Choose something there, or ask them.',
  'host-folder-unusable': 'The folder cannot be used: {reason}. Choose another one, or have its rights changed.',
  'standin-refused': 'The stand-ins did not take this ({detail}).',
  'base-path-unreadable':
    '“{path}” cannot be a path for a site. Write folders of plain letters, digits, dots and hyphens, like /museum.',
  'base-path-same': 'The site is published at {path} already.',
  'zone-not-known':
    'No name server answers for {zone}, so a zone file written now would lack what stands there. Bring in the zone file of before, or wait until they answer.',
  internal:
    'Something went wrong inside Fastigium. Nothing was changed. Try again; if it stays, show your administrator the number {reference}.',
};
