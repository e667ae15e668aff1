<script setup lang="ts">
import { useClips } from './useClips'
import { useExportNotice } from './useReadyNotice'

/** Says on every page when an export is done. */
useExportNotice(useClips().all)
</script>

<template><span hidden></span></template>
