import {
  ArrowUpDown,
  Check,
  ChevronDown,
  ChevronRight,
  Copy,
  Download,
  Ellipsis,
  Eye,
  FilePlus,
  Focus,
  FolderOpen,
  GalleryVerticalEnd,
  Info,
  type LucideIcon,
  type LucideProps,
  Move,
  OctagonAlert,
  Package,
  Plus,
  Redo2,
  Repeat,
  RotateCw,
  Ruler,
  Scaling,
  Scan,
  Search,
  Trash2,
  TriangleAlert,
  Undo2,
  X,
} from 'lucide-react'
import { forwardRef } from 'react'

/** The icons in use, from one package, under the names of what they mean here. */

/** An icon of our own, drawn as those of the package are. */
function own(path: string): LucideIcon {
  return forwardRef<SVGSVGElement, LucideProps>(({ size, ...rest }, ref) => (
    <svg
      ref={ref}
      viewBox="0 0 24 24"
      width={size}
      height={size}
      fill="none"
      stroke="currentColor"
      strokeWidth={2}
      strokeLinecap="round"
      aria-hidden="true"
      {...rest}
    >
      <path d={path} />
    </svg>
  ))
}

/** An icon grows with the text beside it: its size is given in px of text as large as browsers have it at first. */
function sized(Icon: LucideIcon) {
  return ({ size, ...rest }: Omit<LucideProps, 'size'> & { readonly size: number }) => (
    <Icon size={`${size / 16}rem`} {...rest} />
  )
}

export const LiftIcon = sized(ArrowUpDown)
export const PassIcon = sized(Check)
export const ChooseIcon = sized(ChevronDown)
export const OpenedIcon = sized(ChevronRight)
export const CopyIcon = sized(Copy)
export const DownloadIcon = sized(Download)
export const MoreIcon = sized(Ellipsis)
export const SeeThroughIcon = sized(Eye)
/** A nut on its screw, seen from above. */
export const HardwareIcon = sized(
  own('M12 2.5 20.2 7.2 V16.8 L12 21.5 3.8 16.8 V7.2 Z M8 12 a4 4 0 0 0 8 0 a4 4 0 0 0 -8 0'),
)
export const NewIcon = sized(FilePlus)
export const FitSelectedIcon = sized(Focus)
export const OpenIcon = sized(FolderOpen)
export const ParallelIcon = sized(GalleryVerticalEnd)
export const AdviceIcon = sized(Info)
export const MoveIcon = sized(Move)
export const FaultIcon = sized(OctagonAlert)
export const BundleIcon = sized(Package)
export const AddIcon = sized(Plus)
export const RedoIcon = sized(Redo2)
export const RepeatIcon = sized(Repeat)
export const TurnIcon = sized(RotateCw)
export const ReadIcon = sized(Ruler)
export const ScaleIcon = sized(Scaling)
export const FitIcon = sized(Scan)
export const SearchIcon = sized(Search)
export const RemoveIcon = sized(Trash2)
export const WarningIcon = sized(TriangleAlert)
export const UndoIcon = sized(Undo2)
/** A line of the sheet, struck through. */
/** A dashed outline. */
export const GhostIcon = sized(
  own('M4 8 V4 H8 M11 4 H13 M16 4 H20 V8 M20 11 V13 M20 16 V20 H16 M13 20 H11 M8 20 H4 V16 M4 13 V11'),
)
export const MuteIcon = sized(own('M2.5 12 a3 3 0 1 0 6 0 a3 3 0 1 0 -6 0 M12 12 H22 M3 20 L20 4'))
export const CloseIcon = sized(X)
