-- Pictures by the digest of their bytes: photos of people, the logo. Which of them is whose is said by versions; the bytes
-- alone say nothing, and are served only by way of those.
create table picture (
  digest text primary key,
  bytes bytea not null,
  constraint picture_size check (length(bytes) between 1 and 2000000)
);
grant select, insert on picture to gremium_server;
