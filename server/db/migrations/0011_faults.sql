-- Why a piece of work stopped is kept as a code with its values; what was kept in words before stays readable.
ALTER TABLE "bm"."task" ALTER COLUMN "error" SET DATA TYPE jsonb USING CASE
  WHEN "error" IS NULL THEN NULL
  WHEN "error" LIKE '{"code":%' THEN "error"::jsonb
  ELSE jsonb_build_object('code', 'asWritten', 'detail', jsonb_build_object('text', "error"))
END;
