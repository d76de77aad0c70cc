"use client";
import { isFormula, type Quantity } from "@/core/params";
import type { CornerRef, EdgeRef, FaceRef } from "@/core/references";
import { type Field, shownFields, stepType } from "@/core/steps";
import { Choice, Toggle } from "../controls/controls";
import { useJob, useScope, useWorkspace } from "../state/context";
import { type Problems, problemsOf } from "../state/draft";
import { type Sides, withoutFaces } from "../state/sides";
import { FileField } from "./file-field";
import { BodiesField, CuttersField } from "./item-fields";
import { ElsewhereField, PartField } from "./other-part-fields";
import { CornersField, EdgesField, FacesField } from "./part-fields";
import { PointsField } from "./points-field";
import { QuantityInput } from "./quantity-input";
import { RegionsField } from "./regions-field";
import { SketchField } from "./sketch-field";
import { SketchLineField } from "./sketch-line-field";
import { StartsField } from "./starts-field";
import { StepsField } from "./steps-field";

/** The form of the open step, drawn from the fields that its type declares. */
export function StepForm() {
  const editing = useWorkspace((state) => state.editing);
  const setDraft = useWorkspace((state) => state.setDraft);
  const scope = useScope();
  if (!editing) return null;
  const { step } = editing;
  const type = stepType(step.type);
  if (!type) return null;
  const problems = problemsOf(step, scope);
  return (
    <div className="flex flex-col gap-3">
      {shownFields(step).map((field) => (
        <FormField key={field.key} field={field} values={step} problems={problems} onChange={setDraft} />
      ))}
    </div>
  );
}

interface FieldProps {
  field: Field;
  values: Record<string, unknown>;
  problems: Problems;
  onChange(values: Record<string, unknown>): void;
}

export function FormField({ field, values, problems, onChange }: FieldProps) {
  const unit = useJob((state) => state.job.units);
  const value = values[field.key];
  const set = (next: unknown) => onChange({ [field.key]: next });
  switch (field.kind) {
    case "length":
    case "angle":
    case "count":
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
    case "point": {
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
    case "choice":
      return <Choice label={field.label} value={String(value)} options={field.options} onChange={set} />;
    case "toggle":
      return <Toggle label={field.label} value={Boolean(value)} onChange={set} />;
    case "file":
      return <FileField field={field} value={String(value ?? "")} onChange={set} />;
    case "bodies":
      return <BodiesField field={field} value={value as string[]} onChange={set} />;
    case "faces":
      return (
        <FacesField
          field={field}
          value={value as FaceRef[]}
          onChange={(next) =>
            field.key === "cutterFaces"
              ? onChange({ cutterFaces: next, keepSide: withoutFaces(values.keepSide as Sides, next) })
              : set(next)
          }
        />
      );
    case "edges":
      return <EdgesField field={field} value={value as EdgeRef[]} onChange={set} />;
    case "corners":
      return <CornersField field={field} value={value as CornerRef[]} onChange={set} />;
    case "sketch":
      return <SketchField values={values} problems={problems} onChange={onChange} />;
    case "part":
      return (
        <PartField
          label={field.label}
          value={String(value)}
          onChange={(part) => onChange({ [field.key]: part, items: [] })}
        />
      );
    case "elsewhere":
      return <ElsewhereField field={field} part={String(values[field.of])} value={value as string[]} onChange={set} />;
    case "points":
      return (
        <PointsField
          name={field.key}
          label={field.label}
          value={value as never}
          closed={values.closed === true}
          problems={problems}
          onChange={set}
        />
      );
    case "sketch-line":
      return <SketchLineField label={field.label} value={String(value)} onChange={set} />;
    case "starts":
      return (
        <StartsField
          label={field.label}
          sections={values[field.of] as string[]}
          value={value as number[]}
          onChange={set}
        />
      );
    case "steps":
      return <StepsField label={field.label} value={value as string[]} onChange={set} />;
    case "regions":
      return <RegionsField label={field.label} />;
    case "cutters":
      return (
        <CuttersField
          field={field}
          preset={String(values.preset)}
          stock={values.stock as string[]}
          value={value as string[]}
          keepSide={values.keepSide as Sides}
          faces={values.cutterFaces as FaceRef[]}
          onChange={onChange}
        />
      );
    case "fates":
      return null;
  }
}
