-- Each domain of a site has a certificate of its own, so that one whose records are wrong holds up no other.
alter table certificate add column zone text;
update certificate c set zone = d.zone from domain d where d.site_id = c.site_id and d.role = 'own';
-- Of a site without a domain there is nothing left to serve.
delete from certificate where zone is null;
alter table certificate alter column zone set not null;
alter table certificate drop constraint certificate_pkey;
alter table certificate add primary key (site_id, zone);
-- Those that wait were for the main domain and all others together; the main one's is what is missed most.
update job j set body = jsonb_build_object('zone', d.zone) from domain d
 where j.kind = 'certificate' and j.state in ('waiting', 'running') and d.site_id = j.site_id and d.role = 'own';
