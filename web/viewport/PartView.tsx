import { allSteps, findStep, flattened, hasBody, type Part, partedFrom, pieceOfBody } from '@makrel/core/document'
import { operationOf } from '@makrel/core/operations'
import { compose, type Frame, inverse, world } from '@makrel/core/place'
import type { RenderMesh } from '@makrel/core/solids'
import { Canvas, useFrame } from '@react-three/fiber'
import { type RefObject, useEffect, useMemo, useRef, useState } from 'react'
import { solids } from '../channel/client.ts'
import { PartBoundary } from '../frame/PartBoundary.tsx'
import { wholeBox } from '../frame/whole.ts'
import { useKeyList } from '../keys/keys.ts'
import { addsMaterial } from '../make/operations.ts'
import { editFirstValue, openStepMenu } from '../make/StepMenu.tsx'
import { type DrawnPiece, useBuild, workedOf } from '../state/build.ts'
import { selectedSteps, usePart } from '../state/part.ts'
import { IconButton } from '../ui/Button.tsx'
import { Choice } from '../ui/Choice.tsx'
import { FitIcon, FitSelectedIcon, ParallelIcon } from '../ui/icons.tsx'
import { Bed } from './Bed.tsx'
import { BedWords } from './BedWords.tsx'
import { BoxSelect } from './BoxSelect.tsx'
import { CameraRig } from './CameraRig.tsx'
import { CentreMark } from './CentreMark.tsx'
import { CopyMarks } from './CopyMarks.tsx'
import { clashColour, pieceColour } from './colours.ts'
import { SectionSlider, useCutaway } from './cutaway.tsx'
import { Datums } from './Datums.tsx'
import { Dimensions } from './Dimensions.tsx'
import { useDrag } from './drag.ts'
import { EdgeMarks } from './edges.tsx'
import { FieldPlanes } from './FieldPlanes.tsx'
import { FindingMarks } from './FindingMarks.tsx'
import { Handles } from './Handles.tsx'
import { Hardware } from './Hardware.tsx'
import { InspectLabel, useInspected } from './inspect.tsx'
import { KeptViews } from './KeptViews.tsx'
import { Labels } from './Labels.tsx'
import { useLatePart } from './late.ts'
import { workshopLights } from './lights.ts'
import { GhostModel, PieceModel } from './PieceModel.tsx'
import { PointedEdge } from './PointedEdge.tsx'
import { grabbing, HoverLabel, picking, pointedAt } from './picking.tsx'
import { ReadingButton, ReadOff, useIsReading } from './reading.tsx'
import { stepSizeOf, stepSizesOf } from './stepSizes.ts'
import { FieldOnPieces, FieldScale, useFieldOf } from './surfaceField.tsx'
import type { ViewportProps } from './Viewport.tsx'
import { useView, viewNames } from './view.ts'
import { fitSelection, viewKeys } from './viewKeys.ts'

/**
 * Says beside what is drawn how far that is proved: `data-found` is the drawing that something is found of, `data-proved` the one that all is.
 * A proof tells how far it is many times; nothing of the drawing is to be worked out anew for it.
 */
function useProvedMarks(view: RefObject<HTMLDivElement | null>): void {
  useEffect(() => {
    const mark = ({ proving, answered, pieces }: ReturnType<typeof useBuild.getState>) => {
      const drawn = proving && proving.of === answered ? drawnText(pieces) : ''
      const ended = proving?.state !== 'running'
      // A store may tell something while the drawing is being taken away.
      if (!view.current) return
      const { dataset } = view.current
      const said = { found: ended || proving.findings.length > 0 ? drawn : '', proved: ended ? drawn : '' }
      if (dataset.found !== said.found || dataset.proved !== said.proved) Object.assign(dataset, said)
    }
    mark(useBuild.getState())
    return useBuild.subscribe(mark)
  }, [view])
}

/** What is drawn, as one text: another solid has another one. */
const drawnText = (pieces: readonly DrawnPiece[]) => pieces.map((piece) => piece.key).join(' ')

/**
 * The part as a drawing: solids with ink edges on the bed, and over them the dimensions of what is selected (or of the
 * whole). `motions` moves pieces for the swing; `editable` lets faces be picked and dimensions be typed.
 */
export function PartView({
  editable = false,
  tools = false,
  motions,
  standing,
  labels,
  marks,
  clashing,
  onGrab,
  children,
}: ViewportProps) {
  const part = useLatePart()
  const selection = usePart((state) => state.selection)
  const { select } = usePart.getState()
  const pieces = useBuild((state) => state.pieces)
  const view = useRef<HTMLDivElement>(null)
  useProvedMarks(view)
  const box = useMemo(() => wholeBox(pieces), [pieces])
  const fitKey = standing ? standing.box && `${part.id} ${standing.pose}` : part.id
  const ghosts = useGhosts()
  const reading = useIsReading()
  const hasField = useFieldOf(marks)
  const opened = useInspected(useCutaway(pieces, box))
  const seeThrough = useView((state) => state.seeThrough)
  const cuts = selection?.kind === 'step' && !addsMaterial(findStep(part, selection.id)?.step)
  const others = usePart((state) => state.others)
  const selectedText = withContents(part, selection ? [selection.id, ...others] : []).join('\n')
  const selectedIds = useMemo(() => new Set(selectedText.split('\n')), [selectedText])
  const lights = useMemo(workshopLights, [])
  const presses = useMemo(() => (onGrab ? grabbing(onGrab) : picking), [onGrab])
  /** where the right button went down */
  const right = useRef<readonly [number, number]>(undefined)

  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the drawing; each of its presses has a key or a line in the sheet
    <div
      ref={view}
      className="absolute inset-0 overflow-hidden bg-[linear-gradient(#f6f8f7,#edf1ef_45%)]"
      data-drawn={drawnText(pieces)}
      onPointerDown={(event) => {
        right.current = event.button === 2 ? [event.clientX, event.clientY] : undefined
      }}
      onPointerUp={(event) => {
        const from = right.current
        // A drag with the right button shifts the view.
        if (!tools || !from || event.button !== 2 || Math.hypot(event.clientX - from[0], event.clientY - from[1]) > 4)
          return
        const under = pointedAt()
        if (under && !selectedSteps(usePart.getState()).includes(under.id)) select(under)
        else if (!under) select(undefined)
        openStepMenu(event.clientX, event.clientY, undefined)
      }}
      onDoubleClick={() => {
        const under = tools && !reading ? pointedAt() : undefined
        if (under?.kind === 'step') editFirstValue(under.id)
      }}
      onContextMenu={(event) => event.preventDefault()}
    >
      <Canvas
        frameloop="demand"
        dpr={[1, 2]}
        flat
        camera={{ fov: 22, position: [200, -300, 200], near: 1, far: 10_000 }}
        onPointerMissed={(event) => {
          if (editable && event.type === 'click' && usePart.getState().selection?.kind === 'step') select(undefined)
        }}
        aria-label="Drawing of the part"
        fallback={
          <p className="p-6">
            This browser cannot show the drawing (WebGL is off); the sheet and the hand-off work without it.
          </p>
        }
      >
        {lights.map((light) => (
          <primitive key={light.uuid} object={light} />
        ))}
        <Bed size={part.printer.bed} />
        <BedWords size={part.printer.bed} box={box} />
        {(tools ? opened : pieces).map(({ id, mesh }) => {
          const piece = pieceOfBody(part, id)
          return (
            mesh &&
            piece && (
              <PieceModel
                key={id}
                id={id}
                mesh={mesh}
                colour={clashing?.includes(id) ? clashColour : pieceColour(piece.colour)}
                // Its wash would be taken for a part of the scale.
                selection={editable && !hasField ? selection : undefined}
                selectedIds={selectedIds}
                selectionCuts={cuts}
                // Most of what faces another piece lies inside.
                seeThrough={hasField || (tools && seeThrough)}
                // What it was parted into goes with it, but for what is laid by itself.
                motion={motions?.[id] ?? motions?.[partedFrom(id)]}
                onPick={editable ? presses : undefined}
              />
            )
          )
        })}
        {editable &&
          ghosts.map(({ id, mesh, cuts, frame }) => (
            <GhostModel key={id} mesh={mesh} cuts={cuts} motion={since(part, id, frame)} />
          ))}
        {editable && !motions && <Hardware />}
        {tools && <FieldPlanes box={box} />}
        {marks && <FindingMarks marks={marks} />}
        {hasField && <FieldOnPieces />}
        <CameraRig box={standing?.box ?? box} fitKey={fitKey} />
        {box && <InsteadOfKept />}
      </Canvas>
      <PartBoundary what="marks over the drawing">
        {!motions && <Dimensions editable={editable} />}
        {tools && <Datums />}
        {!motions && <CentreMark />}
        {editable && <PointedEdge />}
        {labels && <Labels labels={labels} />}
        {hasField && <FieldScale />}
        {tools && !reading && <CopyMarks />}
        {tools && !reading && <Handles />}
        {tools && <ReadOff />}
        {tools && <InspectLabel />}
        {tools && <BoxSelect />}
        {editable && <HoverLabel />}
        {editable && !motions && <EdgeMarks pieces={tools ? opened : pieces} />}
      </PartBoundary>
      {/* One beside the other, or below it where there is no room. */}
      <div className="pointer-events-none absolute inset-x-2 top-2 flex flex-wrap items-start justify-between gap-x-3 *:pointer-events-auto">
        <Views editable={tools} />
        {tools && <SectionSlider />}
        <div className="basis-full" />
        <BuildNotes />
      </div>
      {!box && part.pieces.every((piece) => piece.steps.length === 0) && (
        <p className="pointer-events-none absolute inset-x-0 top-1/3 text-center text-base text-ink-soft">
          An empty bed. The first solid goes here.
        </p>
      )}
      {children}
    </div>
  )
}

/** That a build takes its time, or why there is none. */
function BuildNotes() {
  const slow = useBuild((state) => state.slow)
  const failure = useBuild((state) => state.failure)
  return (
    <>
      {slow && (
        <p role="status" className="mr-2 ml-auto border border-line bg-sheet px-3 py-1 text-ink-soft">
          building …
        </p>
      )}
      {failure && (
        <p role="alert" className="mr-2 ml-auto border border-rust bg-sheet px-3 py-1">
          The solid could not be built: {failure}
        </p>
      )}
    </>
  )
}

/** The picture of the last time goes once the drawing itself is on the screen. */
function InsteadOfKept() {
  useFrame(() => {
    const kept = document.getElementById('kept-picture')
    if (kept) requestAnimationFrame(() => kept.remove())
  })
  return null
}

function Views({ editable }: { readonly editable: boolean }) {
  const name = useView((state) => state.name)
  const part = usePart((state) => state.part!)
  const parallel = useView((state) => state.parallel)
  useKeyList(viewKeys)
  return (
    <div role="toolbar" aria-label="Views" className="flex min-h-8 flex-wrap items-center gap-x-3 bg-[#f6f8f7]/85 px-2">
      {viewNames.map((view) => (
        <button
          key={view}
          type="button"
          aria-pressed={name === view}
          onClick={() => useView.getState().look(view)}
          className={`capitalize hover:text-mackerel ${name === view ? 'font-semibold text-ink' : 'text-ink-soft'}`}
        >
          {view}
        </button>
      ))}
      <span className="flex items-center">
        <IconButton label="Fit the part (0)" onClick={() => useView.getState().look(useView.getState().name)}>
          <FitIcon size={15} />
        </IconButton>
        {editable && (
          <IconButton label="Fit what is selected (1)" onClick={fitSelection}>
            <FitSelectedIcon size={15} />
          </IconButton>
        )}
        <IconButton
          label="Parallel lines stay parallel"
          pressed={parallel}
          onClick={() => useView.setState({ parallel: !parallel })}
        >
          <ParallelIcon size={15} />
        </IconButton>
        {editable && <ReadingButton />}
      </span>
      {editable && <KeptViews />}
      {editable && (
        <span className="whitespace-nowrap text-ink-soft">
          in steps of{' '}
          <Choice
            label="Step size for dragging and arrow keys"
            value={stepSizeOf(part).label}
            options={stepSizesOf(part.unit).map(({ label }) => ({ value: label, label }))}
            onChange={(stepSize) => usePart.getState().edit({ type: 'set-step-size', stepSize })}
          />
        </span>
      )}
    </div>
  )
}

/** These ids, and those of what they hold where they are bundles. */
function withContents(part: Part, ids: readonly string[]): readonly string[] {
  return ids.flatMap((id) => {
    const step = findStep(part, id)?.step
    return step ? flattened([step]).map((each) => each.id) : [id]
  })
}

/** The motion of a step since it stood in `frame`: it is there with the very keystroke, before the solid is. */
function since(part: Part, id: string, frame: Frame | undefined): Frame {
  const now = workedOf(part).plan.geometry.get(id)?.frame
  return now && frame ? compose(now, inverse(frame)) : world
}

interface Ghost {
  readonly id: string
  readonly mesh: RenderMesh
  readonly cuts: boolean
  /** where it stood when it was drawn */
  readonly frame: Frame | undefined
}

const noGhosts: readonly Ghost[] = []

/** The own shapes of steps flagged as ghosts, of the selected step where it cuts, and of one that is dragged. */
function useGhosts(): readonly Ghost[] {
  const shown = useBuild((state) => state.shown)
  const selection = usePart((state) => state.selection)
  const dragged = useDrag((state) => state.id)
  const [ghosts, setGhosts] = useState(noGhosts)
  useEffect(() => {
    let current = true
    const wanted = (shown ? allSteps(shown) : [])
      .filter(hasBody)
      .filter((step) => step.ghost || step.id === dragged || (selection?.id === step.id && !addsMaterial(step)))
    void Promise.all(
      wanted.map(async ({ id, operation }) => {
        const mesh = await solids().call('ghost', { step: id })
        const frame = workedOf(shown!).plan.geometry.get(id)?.frame
        return mesh && { id, mesh, cuts: operationOf(operation)?.material === 'less', frame }
      }),
    ).then(
      (all) => current && setGhosts(all.length > 0 ? all.filter((ghost) => ghost !== undefined) : noGhosts),
      () => current && setGhosts(noGhosts),
    )
    return () => {
      current = false
    }
  }, [shown, selection?.id, dragged])
  return ghosts
}
