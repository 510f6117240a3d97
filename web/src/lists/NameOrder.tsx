/** In which order whole names stand where no comma tells. */
export function NameOrder({ familyFirst, onChange }: { familyFirst: boolean; onChange: (familyFirst: boolean) => void }) {
  return (
    <label className="mb-3 flex items-center gap-2">
      Names are written
      <select
        className="select select-xs w-56"
        value={familyFirst ? "family" : "given"}
        onChange={(e) => onChange(e.target.value === "family")}
      >
        <option value="given">given name first</option>
        <option value="family">family name first, without a comma</option>
      </select>
    </label>
  );
}
