CREATE TABLE `changes` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`job` text NOT NULL,
	`revision` integer NOT NULL,
	`kind` text NOT NULL,
	`of` integer,
	`label` text NOT NULL,
	`token` text,
	`patches` text NOT NULL,
	`inverse` text NOT NULL,
	`at` integer NOT NULL,
	FOREIGN KEY (`job`) REFERENCES `jobs`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `changes_job_revision` ON `changes` (`job`,`revision`);--> statement-breakpoint
CREATE UNIQUE INDEX `changes_job_token` ON `changes` (`job`,`token`);--> statement-breakpoint
CREATE TABLE `files` (
	`sha256` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`bytes` blob NOT NULL,
	`size` integer NOT NULL,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `geometry` (
	`key` text PRIMARY KEY NOT NULL,
	`bytes` blob NOT NULL,
	`size` integer NOT NULL,
	`used_at` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `geometry_used` ON `geometry` (`used_at`);--> statement-breakpoint
CREATE TABLE `jobs` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`document` text NOT NULL,
	`revision` integer NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
