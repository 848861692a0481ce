import { Config } from '../config/config';
import type { OpenData } from '../openData';
import { createListedBlobs, type BlobStore } from './blobStore';
import { createInlineBytesWork, type BytesWork } from './bytesWork';
import { createS3Place } from './s3Place';
import { createSqlitePlace } from './sqlitePlace';

/** Where bytes are kept: in SQLite, or in a bucket where BLOB_BUCKET names one. */
export function openBlobs(
  { db, bytesFile }: OpenData,
  config: Config = new Config(),
  work: BytesWork = createInlineBytesWork(bytesFile),
): BlobStore {
  const {
    BLOB_BUCKET: bucket,
    S3_ENDPOINT: endpoint,
    S3_REGION: region,
    S3_ACCESS_KEY_ID: accessKeyId,
    S3_SECRET_ACCESS_KEY: secretAccessKey,
  } = config;
  if (bucket === '') return createListedBlobs(db, createSqlitePlace(bytesFile, work));
  return createListedBlobs(
    db,
    createS3Place({ bucket, region, accessKeyId, secretAccessKey, ...(endpoint === '' ? {} : { endpoint }) }),
  );
}
