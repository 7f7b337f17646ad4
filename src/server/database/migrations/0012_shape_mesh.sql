CREATE TABLE "shape_mesh" (
	"hash" text PRIMARY KEY NOT NULL,
	"geometry_key" text NOT NULL
);
--> statement-breakpoint
ALTER TABLE "shape_mesh" ADD CONSTRAINT "shape_mesh_geometry_key_geometry_key_fk" FOREIGN KEY ("geometry_key") REFERENCES "public"."geometry"("key") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "shape_mesh_geometry_key_index" ON "shape_mesh" USING btree ("geometry_key");