import {
  ArrowDown,
  ArrowUp,
  ArrowUpDown,
  Check,
  ChevronDown,
  ChevronRight,
  Contrast,
  Copy,
  Download,
  Ellipsis,
  Eye,
  FilePlus,
  Focus,
  FolderOpen,
  GalleryVerticalEnd,
  Ghost,
  Info,
  type LucideIcon,
  type LucideProps,
  Move,
  OctagonAlert,
  Package,
  PackageOpen,
  Plus,
  Redo2,
  Repeat,
  RotateCw,
  Ruler,
  Scaling,
  Scan,
  Search,
  SquareEqual,
  Trash2,
  TriangleAlert,
  Undo2,
  VolumeX,
  X,
} from 'lucide-react'

/** The icons in use, from one package, under the names of what they mean here. */

/** An icon grows with the text beside it: its size is given in px of text as large as browsers have it at first. */
function sized(Icon: LucideIcon) {
  return ({ size, ...rest }: Omit<LucideProps, 'size'> & { readonly size: number }) => (
    <Icon size={`${size / 16}rem`} {...rest} />
  )
}

export const MoveDownIcon = sized(ArrowDown)
export const MoveUpIcon = sized(ArrowUp)
export const LiftIcon = sized(ArrowUpDown)
export const PassIcon = sized(Check)
export const ChooseIcon = sized(ChevronDown)
export const OpenedIcon = sized(ChevronRight)
export const InspectIcon = sized(Contrast)
export const CopyIcon = sized(Copy)
export const DownloadIcon = sized(Download)
export const MoreIcon = sized(Ellipsis)
export const SeeThroughIcon = sized(Eye)
export const NewIcon = sized(FilePlus)
export const FitSelectedIcon = sized(Focus)
export const OpenIcon = sized(FolderOpen)
export const ParallelIcon = sized(GalleryVerticalEnd)
export const GhostIcon = sized(Ghost)
export const AdviceIcon = sized(Info)
export const MoveIcon = sized(Move)
export const FaultIcon = sized(OctagonAlert)
export const BundleIcon = sized(Package)
export const DissolveIcon = sized(PackageOpen)
export const AddIcon = sized(Plus)
export const RedoIcon = sized(Redo2)
export const RepeatIcon = sized(Repeat)
export const TurnIcon = sized(RotateCw)
export const ReadIcon = sized(Ruler)
export const ScaleIcon = sized(Scaling)
export const FitIcon = sized(Scan)
export const SearchIcon = sized(Search)
export const SameIcon = sized(SquareEqual)
export const RemoveIcon = sized(Trash2)
export const WarningIcon = sized(TriangleAlert)
export const UndoIcon = sized(Undo2)
export const MuteIcon = sized(VolumeX)
export const CloseIcon = sized(X)
