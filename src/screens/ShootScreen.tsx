import { plural, t } from '@lingui/core/macro';
import Flashlight from 'lucide-react-native/icons/flashlight';
import Hand from 'lucide-react-native/icons/hand';
import ImagePlus from 'lucide-react-native/icons/image-plus';
import Layers from 'lucide-react-native/icons/layers';
import Settings from 'lucide-react-native/icons/settings';
import SwitchCamera from 'lucide-react-native/icons/switch-camera';
import { useRouter } from 'expo-router';
import { useEffect, useRef, useState } from 'react';
import { View } from 'react-native';
import { useStore } from 'zustand';
import { boundPages, type HandIn, type Page } from '../../core/work/hand-in/handIn';
import type { PageKind } from '../../core/work/paper/pageKind';
import { useLiveView } from '../features/camera/useLiveView';
import { useCamera } from '../features/camera/useCamera';
import type { ShotPlace } from '../features/camera/keepShot';
import { IntakeList } from '../photos/IntakeList';
import { useSideways } from '../ui/breakpoints';
import { Text } from '../ui/Text';
import { choosePhotos } from '../photos/choosePhotos';
import { CoachingLine } from '../features/camera/CoachingLine';
import { CameraHelp } from '../features/camera/CameraHelp';
import { KindChooser } from '../features/camera/KindChooser';
import { Button } from '../ui/Button';
import { ShootView } from '../features/camera/ShootView';
import { ShotStrip } from '../features/camera/ShotStrip';
import { ShutterBar } from '../features/camera/ShutterBar';
import { shootNotice, type ShootNotice } from '../features/camera/shootNotice';
import { Tips } from '../features/camera/Tips';
import { useShutter } from '../features/camera/useShutter';
import { ZoomBar } from '../features/camera/ZoomBar';
import { useEngine } from '../engine/useEngine';
import { changeSettings, useSettingsStore } from '../preferences/settingsStore';
import { withHandIn } from './withHandIn';
import { BackIcon } from '../ui/directionalIcons';

/** How long a shot can be dropped from its notice. */
const DROP_MS = 6000;
const SHUTTER_KEYS = [' ', 'AudioVolumeUp', 'AudioVolumeDown', 'VolumeUp', 'VolumeDown'];

interface ShootScreenProps {
  readonly handIn: HandIn;
  /** Shoot this page again, fill its reflections from a second photo, or add behind that one. */
  readonly againId?: string | undefined;
  readonly fillId?: string | undefined;
  readonly afterId?: string | undefined;
  /** Begin with the practice table in place of the camera. */
  readonly practice?: boolean;
}

/** The camera: one shot after another onto the pile, with one line of coaching at a time. */
export const ShootScreen = withHandIn(function ShootScreen({
  handIn,
  againId,
  fillId,
  afterId,
  practice = false,
}: ShootScreenProps) {
  const router = useRouter();
  const { api, dispatch, intake } = useEngine();
  const settings = useSettingsStore();
  const wide = useSideways();
  const video = useRef<HTMLVideoElement | null>(null);
  const [kind, setKind] = useState<PageKind>('sheet');
  const [handsFreeOn, setHandsFree] = useState(settings.handsFree);
  const [merge, setMerge] = useState(false);
  const [another, setAnother] = useState<AnotherPhoto | null>(anotherPhoto(againId, fillId));
  const [after, setAfter] = useState<string | null>(afterId ?? null);
  const pages = boundPages(handIn);
  const anotherPage = pages.find(({ id }) => id === another?.pageId);
  const afterPage = pages.find(({ id }) => id === after);
  const place: ShotPlace =
    another !== null && anotherPage !== undefined
      ? { to: another.to, page: anotherPage }
      : afterPage !== undefined
        ? { to: 'after', pageId: afterPage.id }
        : { to: 'end' };

  const camera = useCamera(settings.resolution, practice, api);
  const open = camera.now.state === 'live' ? camera.now.camera : null;
  const press = useRef<() => void>(() => undefined);
  const { live, worker, shotTaken } = useLiveView(video, open?.stream ?? null, {
    handsFreeOn: handsFreeOn && settings.tipsSeen,
    onFire: () => press.current(),
  });
  const dark = useStore(live, (s) => s.coaching === 'tooDark');
  const shutter = useShutter({
    handInId: handIn.id,
    camera: open,
    video,
    worker,
    kind,
    place,
    merge: merge && dark,
    onTaken: shotTaken,
  });
  useEffect(() => {
    press.current = shutter.press;
  });

  const { lastKept, forgetLast } = shutter;
  useEffect(() => {
    if (lastKept === null) return;
    // the next shot goes behind this one, or back to the end
    if (lastKept.place === 'again' || lastKept.place === 'fill') setAnother(null);
    if (lastKept.place === 'after') setAfter(lastKept.pageId);
    const timer = setTimeout(forgetLast, DROP_MS);
    return () => clearTimeout(timer);
  }, [lastKept, forgetLast]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const onButton =
        event.target instanceof HTMLElement && event.target.closest('button, a, input, [role=button]') !== null;
      if (!SHUTTER_KEYS.includes(event.key) || event.repeat || (event.key === ' ' && onButton)) return;
      event.preventDefault();
      press.current();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);

  const addPhotos = (from: 'gallery' | 'camera'): void =>
    void choosePhotos(from, place.to !== 'fill').then((files) => {
      if (place.to === 'fill') {
        if (files[0] !== undefined) shutter.fill(place.page, files[0]);
        return;
      }
      void intake.take(handIn.id, files, { kind, ...(after === null ? {} : { afterPageId: after }) });
      if (files.length > 0) router.replace(`/hand-in/${handIn.id}`);
    });
  const openPage = (page: Page): void => router.push(`/hand-in/${handIn.id}/page/${page.id}?from=shoot`);
  const dropLast = (): void => {
    if (lastKept !== null) void dispatch({ kind: 'deletePages', handInId: handIn.id, pageIds: [lastKept.pageId] });
    forgetLast();
  };
  const numberOf = (pageId: string): number => pages.findIndex(({ id }) => id === pageId) + 1;
  const count = plural({ count: pages.length }, { one: '# page', other: '# pages' });
  const filling = place.to === 'fill' && shutter.keeping > 0;
  const sideways = settings.leftHanded ? 'flex-row-reverse' : 'flex-row';
  const others = camera.now.state === 'live' ? camera.now.others : [];
  const nextCamera = others[(others.findIndex(({ id }) => id === open?.id) + 1) % Math.max(1, others.length)];

  return (
    <View className="flex-1 bg-night">
      <View role="banner" className="flex-row flex-wrap items-center justify-between px-1">
        <Button
          variant="onDark"
          label={t`Pages`}
          accessibilityLabel={t`Pages: back to them, ${count} kept`}
          icon={BackIcon}
          onPress={() => router.replace(`/hand-in/${handIn.id}`)}
        />
        <Text variant="strong" role="heading" aria-level={1} tone="chalk" className="shrink" numberOfLines={1}>
          {handIn.title}
        </Text>
        <Button
          variant="onDark"
          label={t`Settings`}
          accessibilityLabel={t`Settings and tips for the camera`}
          icon={Settings}
          onPress={() => router.push('/settings')}
        />
      </View>
      <View role="main" className={`flex-1 ${wide ? (settings.leftHanded ? 'flex-row-reverse' : 'flex-row') : ''}`}>
        {camera.now.state === 'none' ? (
          <CameraHelp
            problem={camera.now.problem}
            onAgain={() => camera.open(null)}
            onPractise={camera.practise}
            onAddPhotos={addPhotos}
          />
        ) : (
          <View className="flex-1">
            <View className="min-h-[32px] items-center justify-center px-3">
              <CoachingLine live={live} starting={open === null} />
              {open !== null && open.practice !== null ? (
                <Text variant="small" tone="chalk" className="text-center">
                  {t`Practice table: made-up pages, one after another`}
                </Text>
              ) : null}
            </View>
            <ShootView stream={open?.stream ?? null} video={video} live={live} />
          </View>
        )}
        <View className={`bg-night ${wide ? 'w-[340px] justify-end gap-2 pb-2' : ''}`}>
          <Notice
            over={!wide}
            {...shootNotice({
              place,
              lastKept: pages.find(({ id }) => id === lastKept?.pageId),
              lastPlace: lastKept?.place,
              filling,
              numberOf,
              onLeave: () => setAnother(null),
              onDrop: dropLast,
              onToEnd: () => setAfter(null),
              onOpen: openPage,
            })}
          />
          <IntakeList handInId={handIn.id} quiet />
          {shutter.problem === null ? null : (
            <Text role="alert" tone="beetLight" className="px-3 py-1 text-center">
              {shutter.problem}
            </Text>
          )}
          {pages.length === 0 ? null : (
            <ShotStrip
              wide={wide}
              pages={pages}
              againId={another?.pageId ?? null}
              onOpen={openPage}
              onAgain={(page) => setAnother({ to: 'again', pageId: page.id })}
              onFill={(page) => setAnother({ to: 'fill', pageId: page.id })}
            />
          )}
          {open === null ? null : (
            <>
              {open.zoom === null ? null : <ZoomBar zoom={camera.zoom} range={open.zoom} onZoom={camera.zoomTo} />}
              <View role="toolbar" aria-label={t`Camera`} className={`flex-wrap justify-center ${sideways}`}>
                {open.hasTorch ? (
                  <Button
                    variant="onDark"
                    label={t`Torch`}
                    icon={Flashlight}
                    pressed={camera.torch}
                    onPress={camera.toggleTorch}
                  />
                ) : null}
                <Button
                  variant="onDark"
                  label={t`Hands-free`}
                  accessibilityLabel={t`Hands-free shutter`}
                  icon={Hand}
                  pressed={handsFreeOn}
                  onPress={() => setHandsFree(!handsFreeOn)}
                />
                {dark || merge ? (
                  <Button
                    variant="onDark"
                    label={t`Merge 6 frames`}
                    accessibilityLabel={t`Merge 6 frames into a clearer one, in dim light`}
                    icon={Layers}
                    pressed={merge}
                    onPress={() => setMerge(!merge)}
                  />
                ) : null}
                {others.length > 1 && nextCamera !== undefined ? (
                  <Button
                    variant="onDark"
                    label={t`Other camera`}
                    accessibilityLabel={t`Other camera: ${{ label: nextCamera.label }}`}
                    icon={SwitchCamera}
                    onPress={() => camera.open(nextCamera.id)}
                  />
                ) : null}
                <Button
                  variant="onDark"
                  label={t`Photos`}
                  accessibilityLabel={t`Photos from this device`}
                  icon={ImagePlus}
                  onPress={() => addPhotos('gallery')}
                />
              </View>
              <KindChooser kind={kind} onChoose={setKind} />
            </>
          )}
        </View>
      </View>
      <View className={`gap-2 p-2 ${sideways}`}>
        {pages.length > 0 ? (
          <Pile
            count={pages.length}
            keeping={shutter.keeping}
            onPress={() => router.replace(`/hand-in/${handIn.id}`)}
          />
        ) : null}
        <ShutterBar
          label={
            place.to === 'fill'
              ? t`Take the second photo`
              : place.to === 'again'
                ? t`Shoot page ${{ page: numberOf(place.page.id) }} again`
                : t`Shoot`
          }
          live={live}
          disabled={open === null || shutter.busy || filling}
          onPress={shutter.press}
        />
      </View>
      {settings.tipsSeen || open === null ? null : <Tips onDone={() => changeSettings({ tipsSeen: true })} />}
    </View>
  );
});

/** A page that the next photo is for. */
interface AnotherPhoto {
  readonly to: 'again' | 'fill';
  readonly pageId: string;
}

function anotherPhoto(againId: string | undefined, fillId: string | undefined): AnotherPhoto | null {
  if (againId !== undefined) return { to: 'again', pageId: againId };
  return fillId === undefined ? null : { to: 'fill', pageId: fillId };
}

/** @param over - lies over the picture, where there is no room beside it */
function Notice({ text, over, action }: ShootNotice & { readonly over: boolean }) {
  return (
    <View
      role="status"
      className={`flex-row items-center justify-center gap-3 px-3 ${over ? 'absolute bottom-full left-0 right-0' : ''} ${text === null ? '' : 'bg-night/70'}`}
    >
      {text === null ? null : (
        <Text variant="small" tone="chalk" className="tabular-nums">
          {text}
        </Text>
      )}
      {text === null || action === null ? null : (
        <Button variant="onDark" label={action.label} onPress={action.onPress} />
      )}
    </View>
  );
}

/** The pages kept so far, as a pile beside the shutter. */
function Pile({
  count,
  keeping,
  onPress,
}: {
  readonly count: number;
  readonly keeping: number;
  readonly onPress: () => void;
}) {
  return (
    <View className="min-w-[84px] justify-center">
      <Button
        variant="onDark"
        label={t`${count} kept`}
        accessibilityLabel={t`${count} kept${{ more: keeping > 0 ? t`, ${keeping} on the way` : '' }}. Go to the pages`}
        onPress={onPress}
      />
    </View>
  );
}
