export { default } from '@/sheet/kinds/title/Handle.vue'
