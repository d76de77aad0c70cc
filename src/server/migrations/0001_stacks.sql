ALTER TABLE `changes` ADD `under` integer;--> statement-breakpoint
ALTER TABLE `jobs` ADD `outline` text;--> statement-breakpoint
ALTER TABLE `jobs` ADD `undo_top` integer;--> statement-breakpoint
ALTER TABLE `jobs` ADD `redo_top` integer;--> statement-breakpoint
ALTER TABLE `jobs` ADD `has_tops` integer DEFAULT false NOT NULL;