"use client";
import type { ReactNode } from "react";
import { isFormula, type Quantity } from "@/core/params";
import type { CornerRef, EdgeRef, FaceRef } from "@/core/references";
import type { Field } from "@/core/steps";
import { Choice, Toggle } from "../controls/controls";
import { useJob } from "../state/context";
import type { Problems } from "../state/open-values";
import { type Sides, withoutFaces } from "../state/sides";
import { FileField } from "./file-field";
import { FitField } from "./fit-field";
import { BodiesField, CuttersField } from "./item-fields";
import { MovesField } from "./moves-field";
import { ElsewhereField, OtherPicksField, PartField, PlaceField } from "./other-part-fields";
import { CornersField, EdgesField, FacesField } from "./part-fields";
import { PointsField } from "./points-field";
import { ProcessChoice } from "./process-choice";
import { QuantityInput } from "./quantity-input";
import { RegionsField } from "./regions-field";
import { SketchField } from "./sketch-field";
import { SketchLineField } from "./sketch-line-field";
import { StartsField } from "./starts-field";
import { StepsField } from "./steps-field";

/** What a field of a form has to work with: all values of the step, and how they are changed. */
interface FieldProps<F extends Field = Field> {
  field: F;
  value: unknown;
  values: Record<string, unknown>;
  problems: Problems;
  /** Sets its own value. */
  set(next: unknown): void;
  onChange(values: Record<string, unknown>): void;
}

type Shown<F extends Field> = (props: FieldProps<F>) => ReactNode;

/** How each kind of field is shown: a new kind is a line here. */
const SHOWN: { [K in Field["kind"]]: Shown<Extract<Field, { kind: K }>> } = {
  length: LengthField,
  fit: ({ field, value, set }) => <FitField field={field} value={String(value ?? "")} onChange={set} />,
  angle: NumberField,
  count: NumberField,
  point: PointField,
  choice: ({ field, value, set }) => (
    <Choice label={field.label} value={String(value)} options={field.options} onChange={set} />
  ),
  toggle: ({ field, value, set }) => <Toggle label={field.label} value={Boolean(value)} onChange={set} />,
  file: ({ field, value, set }) => <FileField field={field} value={String(value ?? "")} onChange={set} />,
  bodies: ({ field, value, set }) => <BodiesField field={field} value={value as string[]} onChange={set} />,
  faces: ({ field, value, values, set, onChange }) => (
    <FacesField
      field={field}
      value={value as FaceRef[]}
      onChange={(next) =>
        field.key === "cutterFaces"
          ? onChange({ cutterFaces: next, keepSide: withoutFaces(values.keepSide as Sides, next) })
          : set(next)
      }
    />
  ),
  edges: ({ field, value, set }) => <EdgesField field={field} value={value as EdgeRef[]} onChange={set} />,
  corners: ({ field, value, set }) => <CornersField field={field} value={value as CornerRef[]} onChange={set} />,
  sketch: ({ values, problems, onChange }) => <SketchField values={values} problems={problems} onChange={onChange} />,
  part: ({ field, value, onChange }) => (
    <PartField
      label={field.label}
      value={String(value)}
      onChange={(part) => onChange({ [field.key]: part, at: "", items: [], faces: [], edges: [], taken: null })}
    />
  ),
  place: ({ field, value, values, set }) => (
    <PlaceField label={field.label} part={String(values[field.of])} value={String(value)} onChange={set} />
  ),
  "other-faces": ({ field, value, values, set }) => (
    <OtherPicksField field={field} values={values} value={value as FaceRef[]} onChange={set} />
  ),
  "other-edges": ({ field, value, values, set }) => (
    <OtherPicksField field={field} values={values} value={value as EdgeRef[]} onChange={set} />
  ),
  elsewhere: ({ field, value, values, set }) => (
    <ElsewhereField field={field} part={String(values[field.of])} value={value as string[]} onChange={set} />
  ),
  points: ({ field, value, values, problems, set }) => (
    <PointsField
      name={field.key}
      label={field.label}
      value={value as never}
      closed={values.closed === true}
      problems={problems}
      onChange={set}
    />
  ),
  moves: ({ field, value, problems, set }) => (
    <MovesField name={field.key} label={field.label} value={value as never} problems={problems} onChange={set} />
  ),
  "sketch-line": ({ field, value, set }) => (
    <SketchLineField label={field.label} value={String(value)} onChange={set} />
  ),
  starts: ({ field, value, values, set }) => (
    <StartsField label={field.label} sections={values[field.of] as string[]} value={value as number[]} onChange={set} />
  ),
  steps: ({ field, value, set }) => <StepsField label={field.label} value={value as string[]} onChange={set} />,
  regions: ({ field }) => <RegionsField label={field.label} />,
  cutters: ({ field, value, values, onChange }) => (
    <CuttersField
      field={field}
      preset={String(values.preset)}
      stock={values.stock as string[]}
      value={value as string[]}
      keepSide={values.keepSide as Sides}
      mutual={values.mutual === true}
      faces={values.cutterFaces as FaceRef[]}
      onChange={onChange}
    />
  ),
  // Decided in the tray of pieces.
  fates: () => null,
};

export function FormField({ field, values, problems, onChange }: Omit<FieldProps, "value" | "set">) {
  const Kind = SHOWN[field.kind] as Shown<Field>;
  return (
    <Kind
      field={field}
      value={values[field.key]}
      values={values}
      problems={problems}
      set={(next) => onChange({ [field.key]: next })}
      onChange={onChange}
    />
  );
}

function NumberField({
  field,
  value,
  problems,
  set,
}: FieldProps<Extract<Field, { kind: "length" | "angle" | "count" }>>) {
  const unit = useJob((state) => state.job.units);
  return (
    <div>
      <QuantityInput
        label={field.label}
        kind={field.kind}
        unit={unit}
        value={value as Quantity}
        problem={problems[field.key]}
        onChange={set}
      />
      {field.help ? <p className="mt-1 text-[0.8125rem] text-soft">{field.help}</p> : null}
    </div>
  );
}

function LengthField(props: FieldProps<Extract<Field, { kind: "length" }>>) {
  const { field, value, set } = props;
  return (
    <div>
      <NumberField {...props} />
      {field.processes ? <ProcessChoice label={field.label} value={value} onChange={set} /> : null}
    </div>
  );
}

function PointField({ field, value, problems, set }: FieldProps<Extract<Field, { kind: "point" }>>) {
  const unit = useJob((state) => state.job.units);
  const point = value as [Quantity, Quantity, Quantity];
  return (
    <fieldset>
      <legend className="mb-1 text-[0.8125rem] text-soft">{field.label}</legend>
      <div className={`flex gap-1.5 ${point.some((entry) => isFormula(entry)) ? "flex-col" : ""}`}>
        {(field.labels ?? ["X", "Y", "Z"]).map((lead, axis) => (
          <QuantityInput
            key={lead}
            hideLabel
            lead={lead}
            label={`${field.label} ${lead}`}
            kind={field.plain ? "count" : "length"}
            unit={unit}
            value={point[axis]!}
            problem={problems[`${field.key}.${axis}`]}
            onChange={(next) => set(point.map((old, i) => (i === axis ? next : old)))}
          />
        ))}
      </div>
      {field.help ? <p className="mt-1 text-[0.8125rem] text-soft">{field.help}</p> : null}
    </fieldset>
  );
}
