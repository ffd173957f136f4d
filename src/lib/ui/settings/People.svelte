<script lang="ts">
  import {
    CircleUser,
    Copy,
    Ellipsis,
    KeyRound,
    LogOut,
    Pencil,
    UserCheck,
    UserPlus,
    UserX
  } from '@lucide/svelte';
  import { toast } from 'svelte-sonner';
  import type { StaffMember } from '$core/people/staff';
  import { dayWords } from '../clock';
  import Dialog from '../kit/Dialog.svelte';
  import Menu from '../kit/Menu.svelte';
  import Select from '../kit/Select.svelte';
  import TextField from '../kit/TextField.svelte';
  import { ask, attempt } from '../net/send';
  import { countWords } from '../words';
  import OwnPassword from './OwnPassword.svelte';

  /** Who signs in here, as what; those who left are kept out and stay in the records. */
  interface Props {
    people: readonly StaffMember[];
    me: string;
    mayChange: boolean;
    onkept: () => void;
  }
  let { people, me, mayChange, onkept }: Props = $props();

  type Role = StaffMember['role'];
  const roleOptions: { value: Role; words: string; detail: string }[] = [
    { value: 'assistant', words: 'Assistant', detail: 'takes pictures' },
    { value: 'clinician', words: 'Clinician', detail: 'takes, reads and confirms' },
    { value: 'front-desk', words: 'Front desk', detail: 'enters patients, sends' },
    { value: 'administrator', words: 'Administrator', detail: 'changes settings, takes no pictures' }
  ];
  let open = $state(false);
  let editing = $state.raw<StaffMember | null>(null);
  let [name, signInName] = $state(['', '']);
  let role = $state<Role>('assistant');
  function edit(member: StaffMember | null) {
    editing = member;
    name = member?.name ?? '';
    signInName = '';
    role = member?.role ?? 'assistant';
    open = true;
  }
  /** A link is shown once: nobody can look it up again. */
  let link = $state('');
  const linkOf = (code: string) => `${location.origin}/welcome?code=${code}`;

  async function keep(event: SubmitEvent) {
    event.preventDefault();
    const kept = await attempt(async () => {
      if (editing) await ask(`/api/people/${editing.userId}`, { act: 'change', name, role });
      else {
        const { code } = await ask<{ code: string }>('/api/people', { name, signInName, role });
        link = linkOf(code);
      }
    });
    if (!kept) return;
    open = false;
    onkept();
  }
  async function act({ userId }: StaffMember, what: 'disable' | 'enable' | 'end sessions' | 'new link') {
    await attempt(async () => {
      const { code } = await ask<{ code?: string }>(`/api/people/${userId}`, { act: what });
      if (code) link = linkOf(code);
    });
    onkept();
  }
  const stateOf = ({ disabled, invited, sessions, lastAt }: StaffMember): string =>
    disabled
      ? 'kept out'
      : [
          invited ? 'has a link to choose a password' : '',
          sessions ? `signed in at ${countWords(sessions, 'place', 'places')}` : '',
          !sessions && lastAt ? `last here ${dayWords(lastAt)}` : ''
        ]
          .filter(Boolean)
          .join(', ');
  async function copyLink() {
    await navigator.clipboard?.writeText(link).then(
      () => toast.success('The link is copied.'),
      () => toast.error('The link could not be copied.', { description: 'Mark it and copy it by hand.' })
    );
  }
</script>

<section class="panel p-6" aria-labelledby="people" data-testid="people">
  <div class="mb-3 flex items-center gap-3">
    <h2 id="people" class="text-lead flex-1 font-bold">People</h2>
    {#if mayChange}
      <button class="button px-3" onclick={() => edit(null)} data-testid="invite"
        ><UserPlus size={18} aria-hidden="true" />Invite somebody</button
      >
    {/if}
  </div>
  <ul class="flex flex-col gap-1.5">
    {#each people as member (member.userId)}
      <li
        class="border-rule flex min-h-13 items-center gap-3 rounded-lg border pr-1 pl-4 {member.disabled
          ? 'border-dashed'
          : ''}"
        data-testid="staff"
      >
        <CircleUser size={22} class="text-ink-soft shrink-0" aria-hidden="true" />
        <span class="min-w-0 flex-1 py-1 leading-tight">
          <span class="block font-semibold break-words"
            >{member.name}{member.userId === me ? ', you' : ''}</span
          >
          <span class="text-small text-ink-soft"
            >{[member.signInName, stateOf(member)].filter(Boolean).join(' · ')}</span
          >
        </span>
        <span class={member.disabled ? 'text-ink-soft' : ''}>{member.roleWords}</span>
        {#if mayChange}
          <Menu
            label="What to do with the account of {member.name}"
            button="flex size-11 items-center justify-center rounded-lg"
            testid="staff-menu"
            items={[
              { words: 'Name and role', icon: Pencil, act: () => edit(member), testid: 'staff-edit' },
              {
                words: 'A link for a new password',
                icon: KeyRound,
                disabled: member.disabled,
                act: () => void act(member, 'new link'),
                testid: 'staff-link'
              },
              {
                words: member.userId === me ? 'Sign out everywhere else' : 'Sign out everywhere',
                icon: LogOut,
                disabled: !member.sessions,
                act: () => void act(member, 'end sessions'),
                testid: 'staff-end'
              },
              member.disabled
                ? {
                    words: 'Let in again',
                    icon: UserCheck,
                    act: () => void act(member, 'enable'),
                    testid: 'staff-enable'
                  }
                : {
                    words: 'Keep out',
                    icon: UserX,
                    disabled: member.userId === me,
                    act: () => void act(member, 'disable'),
                    testid: 'staff-disable'
                  }
            ]}
          >
            {#snippet trigger()}<Ellipsis size={20} aria-hidden="true" />{/snippet}
          </Menu>
        {/if}
      </li>
    {/each}
  </ul>
</section>
<OwnPassword />

<Dialog bind:open title={editing ? editing.name : 'Somebody new'}>
  <form class="flex flex-col gap-3" onsubmit={keep} data-testid="staff-form">
    <TextField label="Name" bind:value={name} most={120} first testid="staff-name" />
    {#if !editing}
      <TextField
        label="Signs in as"
        bind:value={signInName}
        most={40}
        example="mara"
        testid="staff-sign-in"
      />
    {/if}
    <div>
      <span class="mb-1 block font-semibold">Role</span>
      <Select
        label="Role"
        value={role}
        options={roleOptions}
        onchange={(to) => (role = to)}
        testid="staff-role"
      />
    </div>
    <div class="flex justify-end gap-2">
      <button type="button" class="button" onclick={() => (open = false)}>Not now</button>
      <button class="button main" data-testid="staff-keep">{editing ? 'Keep' : 'Make a link'}</button>
    </div>
  </form>
</Dialog>
<Dialog
  bind:open={() => link !== '', (is) => is || (link = '')}
  title="A link to choose a password"
  message="Give it to nobody else. It is good once, for seven days, and is not shown again."
>
  <p class="border-rule bg-paper rounded-lg border p-3 break-all select-all" data-testid="invite-link">
    {link}
  </p>
  <div class="mt-3 flex justify-end gap-2">
    <button class="button" onclick={copyLink}><Copy size={18} aria-hidden="true" />Copy it</button>
    <button class="button main" onclick={() => (link = '')}>Done</button>
  </div>
</Dialog>
