/** What a tool is for, in a few words each: what goes in, what comes out, and an example from the demo's pier. */
export interface HelpPage {
  takes: string;
  gives: string;
  example: string;
  /** What people stumble over, where there is something. */
  mind?: string;
}

export const HELP: Readonly<Record<string, HelpPage>> = {
  import: {
    takes: "A STEP file, in whatever unit it was written.",
    gives:
      "Every solid and sheet of the file, called as the file calls them. What is damaged in it is told, with its place.",
    example: "The foot pad of the pier came from a supplier as STEP; the mould is built round it.",
    mind: "The file is kept with the job. A later version is taken in by picking the file again.",
  },
  box: {
    takes: "Three sizes and a place; or other bodies, and how far the block reaches past them.",
    gives: "A solid block with square corners.",
    example: "Stock for the mould: a block round the foot pad, with 14 mm to spare on each side.",
  },
  cylinder: {
    takes: "A diameter, a height, the centre of its base and the axis that it runs along.",
    gives: "A round bar.",
    example: "The disc of the hub, and the pin that bores its middle.",
  },
  sphere: {
    takes: "A diameter and its centre.",
    gives: "A ball.",
    example: "The head of a levelling screw under a foot.",
  },
  cone: {
    takes: "A diameter at the base, one at the top (0 for a point), and a height.",
    gives: "A cone, pointed or cut off.",
    example: "A centring plug that finds the middle of a tube's end.",
  },
  torus: {
    takes: "The diameter of the ring, measured at the middle of its bar, and the bar's own diameter.",
    gives: "A ring of round section.",
    example: "A sealing ring for the neck of the ballast flask.",
  },
  wedge: {
    takes: "Length, width and height, and how long the top is; 0 for an edge.",
    gives: "A block with a sloping side.",
    example: "A shim under the cradle that tilts it by a few degrees.",
  },
  workplane: {
    takes:
      "A flat face, an edge and an angle, three corners, two faces to lie midway between, a direction, or an axis to turn about.",
    gives: "An endless plane to cut by and to draw on. Its front is where the short line points.",
    example: "The plane midway between the tray's sides, to draw the slot for the cable on.",
  },
  sketch: {
    takes:
      "A plane or a flat face; then lines, arcs and splines, held together by what is level, tangent or of one size.",
    gives: "Outlines for solids and sheets, and curves that cut as an endless knife square to the plane.",
    example: "The section of the cradle block, driven by the tube's diameter.",
    mind: "Sizes may be formulas. A distance along an axis or from a line that comes out below 0 lies on the other side.",
  },
  curve: {
    takes: "Points in space, and how each goes on to the next: straight, or as a spline.",
    gives: "A curve for a pipe, a sweep or a pattern to follow.",
    example: "The way of the cable from the tray to the top plate.",
  },
  extrude: {
    takes: "Regions of a sketch, or flat faces, and how far: a distance, through all, up to a face, a plane or a body.",
    gives: "A solid or a sheet of its own, or one that joins, cuts or keeps what it goes through.",
    example: "The cable slot, cut through the top plate.",
  },
  revolve: {
    takes: "Regions of a sketch, an axis and an angle.",
    gives: "A turned solid or sheet.",
    example: "The ballast flask, turned from half of its section.",
  },
  loft: {
    takes: "Outlines in planes, in order; guides that its corners follow, where wanted.",
    gives: "A solid or sheet from one to the next, in straight lines or smooth.",
    example: "A shoe that goes from the round tube to the square foot.",
  },
  sweep: {
    takes: "A section, and a path drawn in a sketch or picked as edges.",
    gives: "The section along the path: turning with it, twisting, or keeping its direction.",
    example: "The edging round the tray.",
  },
  pipe: {
    takes: "A path, an outside size, and a wall; 0 for a solid bar.",
    gives: "A round or square tube along the path, with bends that are checked against its size.",
    example: "A leg of the pier, bent from one tube.",
  },
  fillet: {
    takes: "Edges, and a radius or several.",
    gives: "The same body with those edges rounded.",
    example: "The rounded foot of the cradle block.",
    mind: "One that does not fit says by how much it is too large, and offers what does.",
  },
  chamfer: {
    takes: "Edges, and one distance or two.",
    gives: "The same body with those edges cut off flat.",
    example: "The broken edges of the cradle's trough.",
  },
  draft: {
    takes: "Faces, a neutral plane and an angle.",
    gives: "The same body with those faces tilted, so that a casting leaves its mould.",
    example: "The sides of a rubber foot, tilted by 2°.",
  },
  shell: {
    takes: "A solid, the faces that stay open, and a wall; other walls for single faces.",
    gives: "The solid hollowed out. Where the walls cannot be had, the faces behind which there is too little are lit.",
    example: "The ballast flask, hollowed with its neck open.",
  },
  scale: {
    takes: "Bodies, a point, and a factor, or one for each axis.",
    gives: "The same bodies larger or smaller, as for what a casting shrinks by.",
    example: "The foot pad made 1.5 % larger, for the rubber shrinks.",
  },
  move: {
    takes: "Bodies, a turn about an axis, and a shift.",
    gives: "The bodies there, or copies of them.",
    example: "The upper half of the mould lifted off, to look in.",
  },
  align: {
    takes: "A face of what moves and one of what stays: both flat, or both round.",
    gives: "The body put flat on flat, or axis on axis, with a gap where wanted.",
    example: "The hub set onto the top plate.",
  },
  mirror: {
    takes: "Bodies, or steps that joined, cut or divided something, and a plane.",
    gives: "Their images, joined with them where wanted; of a step, the same done on the other side.",
    example: "The pivot boss on the other side of the cradle.",
  },
  pattern: {
    takes: "Bodies, or steps that joined, cut or divided something, and rows, a ring, or a path.",
    gives: "As many in all as you say. Copies of a step’s cutters keep the same sides as there.",
    example: "The four holes for the strap of the cradle.",
  },
  remove: {
    takes: "Whatever has served: tool bodies, offcuts, planes, drawings.",
    gives: "A bench without it. The steps before still have it.",
    example: "The foot pad, once the mould is parted.",
  },
  "bring-in": {
    takes: "Another part of the job, and what of it: bodies, faces, edges, planes, drawings.",
    gives:
      "The same here, where it stands in the job. When the other part changes it is marked, and stays until refreshed.",
    example: "The slot of the top plate, brought into the tray, so that both have one opening.",
  },
  "offset-sheet": {
    takes: "Faces of one body, a distance, and how far past open edges.",
    gives: "A sheet like those faces, moved off them: outwards where the distance is above 0.",
    example: "The parting sheet of the mould, taken off the pad's rim and run on past the block.",
    mind: "The arrow on each picked face shows which way the sheet goes.",
  },
  "offset-faces": {
    takes: "Faces of one solid, and how far each goes: one distance, or up to three for sets of faces.",
    gives:
      "The same solid with those faces moved out or in; the faces beside them run on, or are cut back, to meet them.",
    example: "The trough of the cradle, opened by a quarter of a millimetre for the tube that lies in it.",
    mind: "A rounding beside a face is moved with it where “With what runs smoothly on” is set.",
  },
  "replace-face": {
    takes: "A face of a solid, and what it goes to: a face of another body, a sheet, or a plane.",
    gives: "The same solid, reaching to that surface; the faces beside run on, or are cut back, to meet it.",
    example: "The end of a beam, taken to the round wall of the vessel that it is welded to.",
    mind: "A face that it goes to is run on along its own surface. A sheet is taken as it lies.",
  },
  clearance: {
    takes: "One solid, a distance, and whether corners stay sharp or are rounded.",
    gives: "A solid of its own whose skin keeps that distance from the first everywhere; the first stays as it is.",
    example: "A plug grown by a quarter of a millimetre, to cut its seat with.",
    mind: "A cut that only needs a gap takes one itself: Subtract has a field for it.",
  },
  motion: {
    takes:
      "One solid, and its way: in and round as in a locking slot, swinging about an axis, sliding, or moves of its own, one after the other.",
    gives: "The room that it passes through, as a body of its own or cut straight out of others, with a gap.",
    example: "A locking slot: a pin goes in, and turns. The slot is as wide as the pin in both runs.",
    mind: "Exact for flat, cylindrical, conical and ball-shaped faces; what has no exact form is refused, with the face. Played, it says what the body goes into, and where on its way.",
  },
  "seam-split": {
    takes: "Stock, and cutters of any kind: planes, sheets, faces, drawings, solids.",
    gives: "All pieces, each with a number; say which stay, which go, and which are joined.",
    example: "The hollowed block, split by the parting sheet into the halves of the mould.",
    mind: "A cutter that stops short is marked where it does, and says by how much. One press makes all of them reach. What cuts is dragged by its arrows, and the pieces follow. A group of pieces may be joined to another body.",
  },
  "seam-choose": {
    takes: "Solids that overlap, or sheets that cross, and whatever else is to divide them.",
    gives: "Every piece once: what is in one alone, what several share. Say of each whether it stays.",
    example: "What lies in the front outline and in the side outline, of two bodies drawn out across each other.",
    mind: "A decision for all pieces that are in both is kept as a rule, and holds when the outlines change.",
  },
  "seam-seat": {
    takes: "Stock, and a body that lies in it, or reaches into it.",
    gives: "What of the stock is in that body, the plug, and what is not, the seat: they fit each other without a gap.",
    example: "A block parted into the foot pad's own shape and the mould round it.",
  },
  "seam-skin": {
    takes: "Sheets as stock, and cutters of any kind.",
    gives:
      "Their pieces, each closed along the cut by what of the cutters lies there; what is closed all round is a solid.",
    example: "A shell of the flask cut at a level, its lower part a body to weigh.",
    mind: "What stays open is told with its place.",
  },
  "seam-each-other": {
    takes: "Sheets or solids that cross each other.",
    gives: "Of each what lies on the wanted side of the others.",
    example: "Two skins that meet in a ridge, each ended where the other begins.",
    mind: "The arrow at each cut shows the side that stays: press it to turn it round.",
  },
  "seam-carve": {
    takes: "A hollow body of sheets, or a thin wall of two, and solids to carve with.",
    gives: "An opening through it, with the walls that the solid leaves.",
    example: "The cable slot, carved through the skins of the tray.",
    mind: "Sheets get walls where they are closed all round by them; what stays open is told with its place.",
  },
  "seam-trim": {
    takes: "Stock, and cutters with a side each.",
    gives: "What lies on those sides of all cutters.",
    example: "A tube's end cut off along the skin of the one that it meets.",
    mind: "The arrow at each cut shows the side that stays: press it to turn it round. A face or sheet reaches as far as it does, or runs on along its surface. Stock divides stock where that is asked for: two sheets trim each other.",
  },
  "seam-subtract": {
    takes: "Stock, and solids.",
    gives: "The stock without them.",
    example: "The block with the foot pad taken out of it.",
    mind: "A sheet is left open where it is cut, or gets the walls of the opening where that is asked for: carved through.",
  },
  "seam-union": {
    takes: "Two solids or more that touch or overlap.",
    gives: "One solid; faces that lie on one surface become one.",
    example: "The disc and the sockets of the hub.",
  },
  "seam-intersect": {
    takes: "Two solids or more.",
    gives: "What they have in common.",
    example: "How far a screw's head reaches into the plate: where two parts would meet.",
  },
  "seam-fill": {
    takes: "Whatever encloses: bodies, workplanes, sheets, drawings, single faces.",
    gives: "Each room that is enclosed and in no solid, with its volume, as a piece to keep or not.",
    example: "The ballast flask, filled with lead shot up to a level.",
    mind: "A drawing encloses as far as it goes square to its plane. Openings of bodies are closed along their faces where that is asked for.",
  },
};
